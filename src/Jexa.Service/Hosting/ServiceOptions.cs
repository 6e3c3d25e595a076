using System.Net;
using Jexa.Core.Addresses;

namespace Jexa.Service.Hosting;

/// <summary>How to start the service.</summary>
/// <param name="AppFile">The app file's path; findings show it as it is written here.</param>
/// <param name="Port">The pages' port; 0 for any free one.</param>
/// <param name="ConsolePort">The port of console and management API; 0 for any free one.</param>
/// <param name="StateFolder">Jexa's own data; null for the user's state folder.</param>
/// <param name="Log">How much is logged.</param>
public sealed record ServiceOptions(string AppFile, int Port, int ConsolePort, string? StateFolder, LogDetail Log)
{
    /// <summary>The path prefix that the pages stand below, behind a proxy.</summary>
    public Mount Mount { get; init; } = Mount.Root;

    /// <summary>Host names that the pages answer to besides their own, with a port where visitors write one.</summary>
    public IReadOnlyList<string> Hosts { get; init; } = [];

    /// <summary>How log lines are written.</summary>
    public LogForm LogForm { get; init; }

    /// <summary>The base URL of an OpenTelemetry collector that is told of every visit; null for none.</summary>
    public Uri? Collector { get; init; }

    /// <summary>The proxies whose word is taken on where a visit comes from and which host it asked for.</summary>
    public IReadOnlyList<IPAddress> Proxies { get; init; } = [];

    /// <summary>The addresses of this machine that the pages listen on; loopback alone if empty.</summary>
    public IReadOnlyList<IPAddress> Listen { get; init; } = [];

    /// <summary>For how long the change log keeps changes; null for ever.</summary>
    public TimeSpan? ChangesKept { get; init; }

    /// <summary>Base addresses that the app file names, and those that take their places in this run.</summary>
    public IReadOnlyDictionary<string, string> Instead { get; init; } = new Dictionary<string, string>();

    public const int DefaultPort = 7440;
}
