using Jexa.Core.Changes;
using Jexa.Core.Compiler;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Pages;
using Jexa.Service.State;
using Jexa.Service.Telemetry;
using Jexa.Service.Web;

namespace Jexa.Service;

/// <summary>What a service has behind its two doors. Disposing it ends everything but the doors, in the right order.</summary>
internal sealed class ServiceParts : IAsyncDisposable
{
    public required SourceRegistry Sources { get; init; }

    public required StateFolder State { get; init; }

    public required ChangeStore Changes { get; init; }

    public required EditServices Editing { get; init; }

    public required SiteHost Host { get; init; }

    public required SiteWatcher Watcher { get; init; }

    public required ChangeKeeper Keeper { get; init; }

    public required AppFileEditor Editor { get; init; }

    public required BearerToken Token { get; init; }

    public required VisitorCookies Cookies { get; init; }

    public required VisitTelemetry Telemetry { get; init; }

    public required Serilog.ILogger Logger { get; init; }

    /// <summary>Opens the state folder and makes the parts.</summary>
    /// <exception cref="StartException">The state folder cannot be used.</exception>
    public static ServiceParts Open(Compilation compilation, SourceRegistry sources, ServiceOptions options)
    {
        var clock = TimeProvider.System;
        var (state, kept) = OpenState(options, clock);
        var logger = ServiceLog.Open(options);
        var findings = new RuntimeFindings();
        var editing = new EditServices(kept.Log, kept.Seal, kept.VersionSecret);
        var runner = new VisitRunner(clock, new ListCursor(kept.CursorSecret), findings, editing);
        var host = new SiteHost(compilation, runner, findings, kept.Log, clock);
        return new ServiceParts
        {
            Sources = sources,
            State = state,
            Changes = kept.Log,
            Editing = editing,
            Host = host,
            Watcher = new SiteWatcher(
                host,
                AppFileCompiler.Over(sources, options),
                sources,
                options.AppFile,
                compilation,
                logger
            ),
            Keeper = new ChangeKeeper(kept.Log, () => host.Site, options.ChangesKept, clock, logger),
            Editor = new AppFileEditor(options.AppFile, AppFileCompiler.Over(sources, options)),
            Token = new BearerToken(state, kept.Token),
            Cookies = new VisitorCookies(kept.Seal, options.Mount),
            Telemetry = new VisitTelemetry(options.Collector),
            Logger = logger,
        };
    }

    private static (StateFolder Folder, StateContents Kept) OpenState(ServiceOptions options, TimeProvider clock)
    {
        try
        {
            var folder = options.StateFolder is { } path ? new StateFolder(path) : StateFolder.Default(options.Port);
            return (folder, folder.Open(clock));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new StartException(refused.Message, refused);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await Watcher.DisposeAsync();
        Editor.Dispose();
        Telemetry.Dispose();
        await Keeper.DisposeAsync();
        Changes.Dispose();
        await Sources.DisposeAsync();
    }
}
