using System.Net;
using Jexa.Core.Addresses;
using Jexa.Service.State;

namespace Jexa.Service.Hosting;

/// <summary>How to start the service.</summary>
/// <param name="AppFile">The app file's path, as findings show it.</param>
/// <param name="Port">The pages' port; 0 for any free one.</param>
/// <param name="ConsolePort">The port of console and management API; 0 for any free one.</param>
/// <param name="StateFolder">The folder of Jexa's own data; null for the user's state folder.</param>
/// <param name="Log">How much is logged.</param>
public sealed record ServiceOptions(string AppFile, int Port, int ConsolePort, string? StateFolder, LogDetail Log)
{
    /// <summary>The path prefix of the pages behind a proxy.</summary>
    public Mount Mount { get; init; } = Mount.Root;

    /// <summary>Further host names of the pages, with a port if visitors type one.</summary>
    public IReadOnlyList<string> Hosts { get; init; } = [];

    /// <summary>How log lines are written.</summary>
    public LogForm LogForm { get; init; }

    /// <summary>The base URL of an OpenTelemetry collector; null for none.</summary>
    public Uri? Collector { get; init; }

    /// <summary>The proxies that are trusted to tell the visitor's address and host.</summary>
    public IReadOnlyList<IPAddress> Proxies { get; init; } = [];

    /// <summary>The addresses of this machine that the pages listen on; only loopback if empty.</summary>
    public IReadOnlyList<IPAddress> Listen { get; init; } = [];

    /// <summary>For how long the change log keeps changes; null for ever.</summary>
    public TimeSpan? ChangesKept { get; init; }

    /// <summary>Base addresses in the app file, and their replacements in this run.</summary>
    public IReadOnlyDictionary<string, string> Instead { get; init; } = new Dictionary<string, string>();

    /// <summary>Whether browsers load a page again by themselves when it changed; for developing.</summary>
    public bool Fresh { get; init; }

    /// <summary>Whether the app file need not be there yet: the console leads to a first one.</summary>
    public bool MayBegin { get; init; }

    /// <summary>The state folder; null if none can be used.</summary>
    public StateFolder? State
    {
        get
        {
            try
            {
                return Jexa.Service.State.StateFolder.Of(StateFolder, Port);
            }
            catch (IOException)
            {
                return null;
            }
        }
    }

    /// <summary>The variables of the app file: those of the environment, then those that the console keeps.</summary>
    public SecretsFile Secrets => new(State);

    public const int DefaultPort = 7440;
}
