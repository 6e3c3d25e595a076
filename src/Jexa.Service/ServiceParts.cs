using Jexa.Core.Changes;
using Jexa.Core.Compiler;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Media;
using Jexa.Service.Pages;
using Jexa.Service.Runs;
using Jexa.Service.State;
using Jexa.Service.Telemetry;
using Jexa.Service.Uploads;
using Jexa.Service.Web;
using Jexa.Service.Workshop;

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

    public required Workbench Workbench { get; init; }

    public required ProofDesk Desk { get; init; }

    public required BearerToken Token { get; init; }

    public required VisitorCookies Cookies { get; init; }

    public required UploadKeeper Uploads { get; init; }

    public required AppFiles Files { get; init; }

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
        var disk = new AppFileDisk(options.AppFile);
        var versions = new FileVersions(state, options.AppFile, clock);
        if (!compilation.Bytes.IsEmpty)
            versions.Keep(compilation.Bytes.Span);
        var preview = new Preview(options.Mount, kept.Log, clock);
        var store = new WorkshopStore(state, options.AppFile);
        var bench = new Workbench(
            disk,
            AppFileCompiler.Over(sources, options, preview.Mount),
            preview,
            versions,
            store.Read,
            store.Write,
            clock
        );
        return new ServiceParts
        {
            Sources = sources,
            State = state,
            Changes = kept.Log,
            Editing = editing,
            Host = host,
            Watcher = new SiteWatcher(host, AppFileCompiler.Over(sources, options), sources, options.AppFile, compilation, logger)
            {
                AlsoUsed = () => bench.Sources,
                Seen = bytes => versions.Keep(bytes),
            },
            Keeper = new ChangeKeeper(kept.Log, () => host.Site, options.ChangesKept, clock, logger),
            Editor = new AppFileEditor(disk, AppFileCompiler.Over(sources, options)),
            Workbench = bench,
            Desk = new ProofDesk(host, kept.Log, state, logger),
            Token = new BearerToken(state, kept.Token),
            Cookies = new VisitorCookies(kept.Seal, options.Mount),
            Uploads = new UploadKeeper(host, logger),
            Files = new AppFiles(new SmallPictures(state.PictureFolder)),
            Telemetry = new VisitTelemetry(options.Collector),
            Logger = logger,
        };
    }

    private static (StateFolder Folder, StateContents Kept) OpenState(ServiceOptions options, TimeProvider clock)
    {
        try
        {
            var folder = StateFolder.Of(options.StateFolder, options.Port);
            return (folder, folder.Open(clock));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new StartException(refused.Message, refused);
        }
    }

    /// <summary>The door of management API and console.</summary>
    public ManagementDoor ConsoleDoor(StartCodes startCodes, SecretsFile secrets) =>
        new(
            Host,
            Changes,
            new Undo(Host.Clock, Editing),
            Token,
            startCodes,
            Editor,
            Workbench,
            secrets,
            Desk,
            PagesDoor.Writers,
            Logger
        );

    public async ValueTask DisposeAsync()
    {
        await Desk.DisposeAsync();
        await Watcher.DisposeAsync();
        Editor.Dispose();
        Workbench.Dispose();
        Telemetry.Dispose();
        Files.Dispose();
        await Uploads.DisposeAsync();
        await Keeper.DisposeAsync();
        Changes.Dispose();
        await Sources.DisposeAsync();
    }
}
