using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Management;
using Jexa.Service.Pages;
using Jexa.Service.State;
using Jexa.Service.Telemetry;
using Jexa.Sources.Files;
using Jexa.Sources.Http;
using Jexa.Sources.MariaDb;
using Jexa.Sources.Postgres;
using Jexa.Sources.Sqlite;
using Microsoft.AspNetCore.Builder;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Json;

namespace Jexa.Service;

/// <summary>Why the service could not be started, as a sentence for whoever started it.</summary>
public sealed class StartException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>A running service: two doors over one site. Dispose it to end it, requests in flight finished.</summary>
public sealed class JexaService : IAsyncDisposable
{
    private readonly WebApplication _pages;
    private readonly WebApplication _console;
    private readonly SiteWatcher _watcher;
    private readonly SourceRegistry _sources;
    private readonly StateFolder _state;
    private readonly VisitTelemetry _telemetry;
    private readonly (ChangeKeeper Keeper, ChangeStore Store) _changes;

    private JexaService(
        ServiceOptions options, WebApplication pages, WebApplication console, SiteWatcher watcher, SourceRegistry sources, StateFolder state, VisitTelemetry telemetry,
        (ChangeKeeper Keeper, ChangeStore Store) changes, string consoleCode)
    {
        _changes = changes;
        _watcher = watcher;
        _pages = pages;
        _console = console;
        _sources = sources;
        _state = state;
        _telemetry = telemetry;
        PagesUrl = $"http://127.0.0.1:{Doors.PortOf(pages)}{options.Mount}/";
        ConsoleUrl = $"http://127.0.0.1:{Doors.PortOf(console)}/";
        ConsoleStartUrl = $"{ConsoleUrl}#code={consoleCode}";
    }

    public string PagesUrl { get; }

    public string ConsoleUrl { get; }

    /// <summary>The console's URL with the code that signs it in, once.</summary>
    public string ConsoleStartUrl { get; }

    /// <summary>Readies the libraries that engines use; before anything else in the process uses them.</summary>
    public static void PrepareEngines() => SqliteEngine.Prepare();

    /// <summary>The engines this build has.</summary>
    public static SourceRegistry OpenSources() => new([new SqliteEngine(), new PostgresEngine(), new MariaDbEngine(), new FilesEngine(), new HttpEngine()]);

    /// <summary>Compiles an app file against its sources.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<Compilation> CompileAsync(string appFile, SourceRegistry sources, Mount mount, CancellationToken cancellation) =>
        await Compiler(sources, mount).CompileAsync(appFile, await ReadAsync(appFile, cancellation), cancellation);

    /// <summary>Opens both doors over a compiled app file that makes a site. The service owns the sources from here on.</summary>
    /// <exception cref="StartException">A port is taken, or the state folder cannot be used.</exception>
    public static async Task<JexaService> StartAsync(Compilation compilation, SourceRegistry sources, ServiceOptions options, CancellationToken cancellation)
    {
        StateFolder state;
        BearerToken token;
        ListCursor cursors;
        FormSeal seal;
        ChangeStore changes;
        byte[] versionSecret;
        try
        {
            state = options.StateFolder is { } folder ? new StateFolder(folder) : StateFolder.Default(options.Port);
            state.Prepare();
            token = new BearerToken(state.Token());
            cursors = new ListCursor(state.CursorSecret());
            (seal, versionSecret) = (state.Seal(), state.VersionSecret());
            changes = state.Changes(TimeProvider.System);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new StartException(refused.Message, refused);
        }

        var logger = Logger(options);
        var telemetry = new VisitTelemetry(options.Collector);
        var runtimeFindings = new RuntimeFindings();
        var editing = new Editing(changes, seal, versionSecret);
        var host = new SiteHost(compilation, new VisitRunner(TimeProvider.System, cursors, runtimeFindings, editing), runtimeFindings, TimeProvider.System);
        var startCodes = new StartCodes();
        var watcher = new SiteWatcher(host, Compiler(sources, options.Mount), sources, options.AppFile, compilation, logger);
        var managementDoor = new ManagementDoor(host, changes, new Undo(TimeProvider.System, editing), token, startCodes, logger);
        var keeper = new ChangeKeeper(changes, () => host.Site, logger);
        WebApplication? console = null;
        WebApplication pages;
        try
        {
            console = await StartAsync(managementDoor.Build(options.ConsolePort), "--console-port", options.ConsolePort, cancellation);
            var pagesDoor = new PagesDoor(host, watcher, options, token, new VisitorCookies(seal, options.Mount), telemetry, Doors.PortOf(console), logger);
            pages = await StartAsync(pagesDoor.Build(), "--port", options.Port, cancellation);
        }
        catch
        {
            if (console is not null) await console.DisposeAsync();
            telemetry.Dispose();
            await keeper.DisposeAsync();
            changes.Dispose();
            await watcher.DisposeAsync();
            throw;
        }

        var service = new JexaService(options, pages, console, watcher, sources, state, telemetry, (keeper, changes), startCodes.Issue());
        managementDoor.PointTo(service.PagesUrl, service.ConsoleUrl);
        try
        {
            state.WriteAddress(new ServiceAddress(service.PagesUrl, service.ConsoleUrl, Environment.ProcessId));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            await service.DisposeAsync();
            throw new StartException($"The state folder {state.Path} cannot be written to: {refused.Message}", refused);
        }

        return service;
    }

    public async ValueTask DisposeAsync()
    {
        _state.RemoveAddress();
        await _watcher.DisposeAsync();
        await Task.WhenAll(_pages.StopAsync(), _console.StopAsync());
        await _pages.DisposeAsync();
        await _console.DisposeAsync();
        _telemetry.Dispose();
        await _changes.Keeper.DisposeAsync();
        _changes.Store.Dispose();
        await _sources.DisposeAsync();
    }

    private static Serilog.Core.Logger Logger(ServiceOptions options)
    {
        var configuration = new LoggerConfiguration()
            .MinimumLevel.Is(options.Log switch
            {
                LogDetail.None => LogEventLevel.Fatal,
                LogDetail.Trouble => LogEventLevel.Warning,
                _ => LogEventLevel.Information,
            })
            .MinimumLevel.Override("Microsoft", LogEventLevel.Fatal);
        return options.LogForm == LogForm.Json
            ? configuration.WriteTo.Console(new JsonFormatter(renderMessage: true), standardErrorFromLevel: LogEventLevel.Verbose).CreateLogger()
            : configuration.WriteTo.Console(standardErrorFromLevel: LogEventLevel.Verbose, outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj}{NewLine}")
                .CreateLogger();
    }

    private static async Task<WebApplication> StartAsync(WebApplication app, string option, int port, CancellationToken cancellation)
    {
        try
        {
            await app.StartAsync(cancellation);
            return app;
        }
        catch (IOException taken)
        {
            await app.DisposeAsync();
            throw new StartException($"The port {port} is taken by another program: name another one with {option} PORT.", taken);
        }
        catch (System.Net.Sockets.SocketException refused)
        {
            await app.DisposeAsync();
            throw new StartException($"The port {port} cannot be used ({refused.SocketErrorCode}): name another one with {option} PORT.", refused);
        }
    }

    private static SiteCompiler Compiler(SourceRegistry sources, Mount mount) => new(sources, Environment.GetEnvironmentVariable, mount);

    internal static async Task<byte[]> ReadAsync(string file, CancellationToken cancellation)
    {
        try
        {
            // A little more than is accepted is enough to say that it is too much.
            await using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
            using var bytes = new MemoryStream();
            var chunk = new byte[64 * 1024];
            int read;
            while (bytes.Length <= Core.Definitions.AppFileReader.MaxBytes && (read = await stream.ReadAsync(chunk, cancellation)) > 0) bytes.Write(chunk, 0, read);
            return bytes.ToArray();
        }
        catch (Exception refused) when (refused is FileNotFoundException or DirectoryNotFoundException)
        {
            throw new StartException($"There is no file {file}.", refused);
        }
        catch (UnauthorizedAccessException refused)
        {
            throw new StartException(Directory.Exists(file) ? $"{file} is a folder; name the app file in it." : $"The file {file} cannot be read: permission is denied.", refused);
        }
        catch (IOException refused)
        {
            throw new StartException($"The file {file} cannot be read: {refused.Message}", refused);
        }
    }
}
