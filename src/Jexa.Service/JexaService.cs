using System.Net;
using Jexa.Core.Changes;
using Jexa.Core.Compiler;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Pages;
using Jexa.Service.State;
using Jexa.Service.Telemetry;
using Jexa.Service.Web;
using Microsoft.AspNetCore.Builder;

namespace Jexa.Service;

/// <summary>A running service: two doors over one site. Disposing it ends it after the current requests.</summary>
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

    /// <summary>Why nothing can be changed through pages since the start; null if changes can be saved.</summary>
    public string? OnlyReads { get; }

    public string ConsoleUrl { get; }

    /// <summary>The console's URL with the code that signs it in, once.</summary>
    public string ConsoleStartUrl { get; }

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
        var (state, kept) = OpenState(options);
        var (token, changes, seal) = (new BearerToken(state, kept.Token), kept.Log, kept.Seal);
        var logger = ServiceLog.Open(options);
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
        var watcher = new SiteWatcher(
            host,
            AppFileCompiler.Over(sources, options),
            sources,
            options.AppFile,
            compilation,
            logger
        );
        var managementDoor = new ManagementDoor(
            host,
            changes,
            new Undo(TimeProvider.System, editing),
            token,
            startCodes,
            PagesDoor.Writers,
            logger
        );
        var keeper = new ChangeKeeper(changes, () => host.Site, options.ChangesKept, TimeProvider.System, logger);
        WebApplication? console = null;
        WebApplication pages;
        try
        {
            console = await Listening.StartAsync(
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
            pages = await Listening.StartAsync(pagesDoor.Build(), "--port", options.Port, cancellation);
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
        service.WriteAddress(logger);
        return service;
    }

    private static (StateFolder Folder, StateContents Kept) OpenState(ServiceOptions options)
    {
        try
        {
            var folder = options.StateFolder is { } path ? new StateFolder(path) : StateFolder.Default(options.Port);
            return (folder, folder.Open(TimeProvider.System));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new StartException(refused.Message, refused);
        }
    }

    private void WriteAddress(Serilog.ILogger logger)
    {
        try
        {
            _state.WriteAddress(new ServiceAddress(PagesUrl, ConsoleUrl, Environment.ProcessId));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            // Pages can still be read, but commands cannot find this service.
            logger.Warning(
                "Commands cannot find this service, since its address could not be written: {Reason}",
                refused.Message
            );
        }
    }

    /// <summary>The address for users of this machine: loopback if the service listens on it.</summary>
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
}
