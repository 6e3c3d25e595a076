using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Files;
using Jexa.Core.Sources;

namespace Jexa.Service.Hosting;

/// <summary>Reads an app file and compiles it with its sources.</summary>
public static class AppFileCompiler
{
    /// <summary>Compiles an app file with its sources.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<Compilation> CompileAsync(
        string appFile,
        SourceRegistry sources,
        Mount mount,
        CancellationToken cancellation
    ) => await Over(sources, mount).CompileAsync(appFile, await ReadAsync(appFile, cancellation), cancellation);

    /// <summary>Compiles an app file as it is to be served.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<Compilation> CompileAsync(
        ServiceOptions options,
        SourceRegistry sources,
        CancellationToken cancellation
    ) => await Over(sources, options).CompileAsync(options.AppFile, await ReadAsync(options.AppFile, cancellation), cancellation);

    public static SiteCompiler Over(SourceRegistry sources, Mount mount) =>
        Over(sources, mount, new Dictionary<string, string>());

    /// <param name="connections">Connections by the names of sources, instead of those in the app file.</param>
    public static SiteCompiler Over(SourceRegistry sources, Mount mount, IReadOnlyDictionary<string, string> connections) =>
        new(sources, Environment.GetEnvironmentVariable, mount)
        {
            Connections = connections,
            IsOwn = address => IsOwn(address, ServiceOptions.DefaultPort, []),
        };

    public static SiteCompiler Over(SourceRegistry sources, ServiceOptions options) => Over(sources, options, options.Mount);

    /// <summary>Compiles for another prefix than the one that visitors see.</summary>
    public static SiteCompiler Over(SourceRegistry sources, ServiceOptions options, Mount mount) =>
        new(sources, options.Secrets.Value, mount)
        {
            Instead = options.Instead,
            IsOwn = address => IsOwn(address, options.Port, options.Hosts),
        };

    /// <summary>Whether pages are served there: at their port of this machine, or at the root of one of their hosts.</summary>
    private static bool IsOwn(Uri address, int port, IReadOnlyList<string> hosts) =>
        (address.IsLoopback && address.Port == port)
        || (address.AbsolutePath == "/" && hosts.Contains(address.Authority, StringComparer.OrdinalIgnoreCase));

    /// <summary>The bytes of an app file.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<byte[]> ReadAsync(string file, CancellationToken cancellation)
    {
        try
        {
            // One byte more than is accepted is enough to say that the file is too large.
            return await Task.Run(() => PlainFile.ReadAllBytes(file, Core.Definitions.AppFileReader.MaxBytes), cancellation);
        }
        catch (Exception refused) when (refused is FileNotFoundException or DirectoryNotFoundException)
        {
            throw new StartException($"There is no file {file}.", refused);
        }
        catch (UnauthorizedAccessException refused)
        {
            throw new StartException(
                Directory.Exists(file)
                    ? $"{file} is a folder; name the app file in it."
                    : $"The file {file} cannot be read: permission is denied.",
                refused
            );
        }
        catch (IOException refused)
        {
            throw new StartException($"The file {file} cannot be read: {refused.Message}", refused);
        }
    }
}
