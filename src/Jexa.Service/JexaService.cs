using System.Net;
using Jexa.Core.Addresses;
using Jexa.Core.Files;
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
        ServiceOptions options,
        WebApplication pages,
        WebApplication console,
        SiteWatcher watcher,
        SourceRegistry sources,
        StateFolder state,
        VisitTelemetry telemetry,
        (ChangeKeeper Keeper, ChangeStore Store) changes,
        string consoleCode
    )
    {
        _changes = changes;
        _watcher = watcher;
        _pages = pages;
        _console = console;
        _sources = sources;
        _state = state;
        _telemetry = telemetry;
        PagesUrl = $"http://{new IPEndPoint(Shown(options.Listen), Doors.PortOf(pages))}{options.Mount}/";
        ConsoleUrl = $"http://127.0.0.1:{Doors.PortOf(console)}/";
        ConsoleStartUrl = $"{ConsoleUrl}#code={consoleCode}";
        OnlyReads = changes.Store.Trouble;
    }

    public string PagesUrl { get; }

    /// <summary>
    /// Why nothing can be changed through pages since the start, for whoever started it; null if changes can be saved.
    /// </summary>
    public string? OnlyReads { get; }

    public string ConsoleUrl { get; }

    /// <summary>The console's URL with the code that signs it in, once.</summary>
    public string ConsoleStartUrl { get; }

    /// <summary>Readies the libraries that engines use; before anything else in the process uses them.</summary>
    public static void PrepareEngines() => SqliteEngine.Prepare();

    /// <summary>The engines this build has.</summary>
    public static SourceRegistry OpenSources() =>
        new([new SqliteEngine(), new PostgresEngine(), new MariaDbEngine(), new FilesEngine(), new HttpEngine()]);

    /// <summary>Compiles an app file against its sources.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<Compilation> CompileAsync(
        string appFile,
        SourceRegistry sources,
        Mount mount,
        CancellationToken cancellation
    ) => await Compiler(sources, mount).CompileAsync(appFile, await ReadAsync(appFile, cancellation), cancellation);

    /// <summary>Compiles an app file as it is to be served.</summary>
    /// <exception cref="StartException">The file cannot be read.</exception>
    public static async Task<Compilation> CompileAsync(
        ServiceOptions options,
        SourceRegistry sources,
        CancellationToken cancellation
    ) =>
        await Compiler(sources, options)
            .CompileAsync(options.AppFile, await ReadAsync(options.AppFile, cancellation), cancellation);

    /// <summary>Opens both doors over a compiled app file that makes a site. The service owns the sources from here on.</summary>
    /// <exception cref="StartException">A port is taken, or the state folder cannot be used.</exception>
    public static async Task<JexaService> StartAsync(
        Compilation compilation,
        SourceRegistry sources,
        ServiceOptions options,
        CancellationToken cancellation
    )
    {
        OpenFiles.Check();
        StateFolder state;
        StateContents kept;
        try
        {
            state = options.StateFolder is { } folder ? new StateFolder(folder) : StateFolder.Default(options.Port);
            kept = state.Open(TimeProvider.System);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new StartException(refused.Message, refused);
        }

        var (token, changes, seal) = (new BearerToken(state, kept.Token), kept.Log, kept.Seal);
        var logger = Logger(options);
        var telemetry = new VisitTelemetry(options.Collector);
        var runtimeFindings = new RuntimeFindings();
        var editing = new EditServices(changes, seal, kept.VersionSecret);
        var host = new SiteHost(
            compilation,
            new VisitRunner(TimeProvider.System, new ListCursor(kept.CursorSecret), runtimeFindings, editing),
            runtimeFindings,
            changes,
            TimeProvider.System
        );
        var startCodes = new StartCodes(TimeProvider.System);
        var watcher = new SiteWatcher(host, Compiler(sources, options), sources, options.AppFile, compilation, logger);
        var managementDoor = new ManagementDoor(host, changes, new Undo(TimeProvider.System, editing), token, startCodes, logger);
        var keeper = new ChangeKeeper(changes, () => host.Site, options.ChangesKept, TimeProvider.System, logger);
        WebApplication? console = null;
        WebApplication pages;
        try
        {
            console = await StartAsync(
                managementDoor.Build(options.ConsolePort),
                "--console-port",
                options.ConsolePort,
                cancellation
            );
            var pagesDoor = new PagesDoor(
                host,
                watcher,
                options,
                token,
                new VisitorCookies(seal, options.Mount),
                telemetry,
                Doors.PortOf(console),
                logger
            );
            pages = await StartAsync(pagesDoor.Build(), "--port", options.Port, cancellation);
        }
        catch
        {
            if (console is not null)
                await console.DisposeAsync();
            telemetry.Dispose();
            await keeper.DisposeAsync();
            changes.Dispose();
            await watcher.DisposeAsync();
            throw;
        }

        var service = new JexaService(
            options,
            pages,
            console,
            watcher,
            sources,
            state,
            telemetry,
            (keeper, changes),
            startCodes.Issue()
        );
        managementDoor.PointTo(service.PagesUrl, service.ConsoleUrl);
        try
        {
            state.WriteAddress(new ServiceAddress(service.PagesUrl, service.ConsoleUrl, Environment.ProcessId));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            // Pages are read all the same; what is lacking is only how commands find this service.
            logger.Warning(
                "Commands cannot find this service, since its address could not be written: {Reason}",
                refused.Message
            );
        }

        return service;
    }

    /// <summary>The address that somebody on this machine can use: loopback if it is listened on.</summary>
    private static IPAddress Shown(IReadOnlyList<IPAddress> listen) =>
        listen.Count == 0
        || listen.Any(address =>
            IPAddress.IsLoopback(address) || address.Equals(IPAddress.Any) || address.Equals(IPAddress.IPv6Any)
        )
            ? listen.FirstOrDefault(IPAddress.IsLoopback) ?? IPAddress.Loopback
            : listen[0];

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
            .MinimumLevel.Is(
                options.Log switch
                {
                    LogDetail.None => LogEventLevel.Fatal,
                    LogDetail.Trouble => LogEventLevel.Warning,
                    _ => LogEventLevel.Information,
                }
            )
            .MinimumLevel.Override("Microsoft", LogEventLevel.Fatal);
        return options.LogForm == LogForm.Json
            ? configuration
                .WriteTo.Console(new JsonFormatter(renderMessage: true), standardErrorFromLevel: LogEventLevel.Verbose)
                .CreateLogger()
            : configuration
                .WriteTo.Console(
                    standardErrorFromLevel: LogEventLevel.Verbose,
                    outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj}{NewLine}"
                )
                .CreateLogger();
    }

    private static async Task<WebApplication> StartAsync(
        WebApplication app,
        string option,
        int port,
        CancellationToken cancellation
    )
    {
        try
        {
            await app.StartAsync(cancellation);
            return app;
        }
        catch (IOException taken)
        {
            await app.DisposeAsync();
            throw new StartException(
                taken.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException or null
                    ? $"The port {port} is taken by another program: name another one with {option} PORT."
                    : $"The port {port} cannot be used: {taken.Message} See --listen and {option}.",
                taken
            );
        }
        catch (System.Net.Sockets.SocketException refused)
        {
            await app.DisposeAsync();
            throw new StartException(
                $"The port {port} cannot be used ({refused.SocketErrorCode}): name another one with {option} PORT.",
                refused
            );
        }
    }

    private static SiteCompiler Compiler(SourceRegistry sources, Mount mount) =>
        new(sources, Environment.GetEnvironmentVariable, mount);

    private static SiteCompiler Compiler(SourceRegistry sources, ServiceOptions options) =>
        new(sources, Environment.GetEnvironmentVariable, options.Mount) { Instead = options.Instead };

    internal static async Task<byte[]> ReadAsync(string file, CancellationToken cancellation)
    {
        try
        {
            // A little more than is accepted is enough to say that it is too much.
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
