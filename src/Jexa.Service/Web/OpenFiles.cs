using Jexa.Core.Files;
using Jexa.Service.Hosting;

namespace Jexa.Service.Web;

/// <summary>
/// The number of connections of a door, limited so that the process never runs out of file descriptors. Without a free one,
/// nothing can be loaded, opened or accepted, and the process ends.
/// </summary>
internal static class OpenFiles
{
    /// <summary>
    /// Descriptors for everything except visitors: sources (24 each), the change log, files of the app, calls of APIs, watching
    /// the app file.
    /// </summary>
    private const long Reserve = 192;

    /// <summary>With fewer connections, for both doors together, the service does not start.</summary>
    private const long FewestConnections = 32;

    /// <summary>More are refused, whatever the limit: each needs memory too.</summary>
    private const long MostEver = 20_000;

    /// <summary>The most connections of one door. The rest is for the other door and for Jexa itself.</summary>
    public static long MostConnections { get; } = Math.Clamp((Limit() - InUse() - Reserve) / 2, FewestConnections / 2, MostEver);

    /// <summary>Says what to do if the process may not open enough files.</summary>
    /// <exception cref="StartException">It may.</exception>
    public static void Check()
    {
        var needed = InUse() + Reserve + FewestConnections;
        if (Limit() < needed)
            throw new StartException(
                $"This process may open {Limit()} files only, and Jexa needs at least {needed}: allow more "
                    + "before it is started (ulimit -n 1024)."
            );
    }

    private static long InUse() => Directory.GetFileSystemEntries("/proc/self/fd").Length;

    private static long Limit() => OpenFileLimit.Read();
}
