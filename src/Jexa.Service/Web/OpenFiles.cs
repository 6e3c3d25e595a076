using Jexa.Core.Files;
using Jexa.Service.Hosting;

namespace Jexa.Service.Web;

/// <summary>
/// How many connections a door may have at once, so that the process never runs out of file descriptors: with none left nothing
/// can be loaded, opened or accepted any more, and the process ends.
/// </summary>
internal static class OpenFiles
{
    /// <summary>
    /// What is left for everything but visitors: sources (24 each), the change log, files of the app, upstream calls, the
    /// watching of the app file.
    /// </summary>
    private const long Reserve = 192;

    /// <summary>Fewer connections than this, for both doors together, are not worth starting for.</summary>
    private const long FewestConnections = 32;

    /// <summary>More are refused at once, whatever the limit: each takes memory as well.</summary>
    private const long MostEver = 20_000;

    /// <summary>The most connections of one door; the rest is for the other and for ourselves.</summary>
    public static long MostConnections { get; } = Math.Clamp((Limit() - InUse() - Reserve) / 2, FewestConnections / 2, MostEver);

    /// <summary>Says what to do if the process may open too few files to serve.</summary>
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
