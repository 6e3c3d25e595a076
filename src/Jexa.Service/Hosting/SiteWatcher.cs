using System.Security.Cryptography;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Serilog;

namespace Jexa.Service.Hosting;

/// <summary>
/// Loads changes of the app file, and of its sources' schemas, while the service runs. It polls the file, because that notices
/// every way of saving (in place, by rename, through a link, on a network). A file is read only after it has not changed for a
/// moment, so that half a file is never loaded.
/// </summary>
internal sealed class SiteWatcher : IAsyncDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(75);
    private static readonly TimeSpan SchemaPause = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan SourcePause = TimeSpan.FromSeconds(2);

    /// <summary>After this time no visit uses an earlier site.</summary>
    private static readonly TimeSpan LastVisits = TimeSpan.FromSeconds(20);

    private readonly SiteHost _host;
    private readonly SiteCompiler _compiler;
    private readonly SourceRegistry _registry;
    private readonly ILogger _logger;
    private readonly string _file;
    private readonly CancellationTokenSource _ending = new();
    private readonly Task _watching;
    private readonly BesideFiles _beside = new();
    private byte[] _taken;
    private int _schemaDoubted;
    private IReadOnlyList<ISource> _absent;

    /// <param name="taken">The app file as it is served.</param>
    public SiteWatcher(
        SiteHost host,
        SiteCompiler compiler,
        SourceRegistry registry,
        string file,
        Compilation taken,
        ILogger logger
    )
    {
        (_host, _compiler, _registry, _file, _logger) = (host, compiler, registry, file, logger);
        _taken = SHA256.HashData(taken.Bytes.Span);
        _absent = Absent(taken);
        _beside.Take(taken);
        _watching = Task.Run(WatchAsync);
    }

    /// <summary>The sources that must stay open though the served site does not use them.</summary>
    public Func<IEnumerable<ISource>> AlsoUsed { get; init; } = () => [];

    /// <summary>Is told each text of the app file, good or bad, when it is taken up.</summary>
    public Action<byte[]> Seen { get; init; } = _ => { };

    /// <summary>A query failed in a way that a changed schema would explain: read the schemas again soon.</summary>
    public void DoubtSchema() => Interlocked.Exchange(ref _schemaDoubted, 1);

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        await _watching;
        _ending.Dispose();
    }

    private async Task WatchAsync()
    {
        var (seen, steady) = (State(), true);
        var schemaLooked = _host.Clock.GetTimestamp();
        var sourcesLooked = schemaLooked;
        Task<bool>? asking = null;
        while (true)
        {
            try
            {
                await Task.Delay(Pause, _host.Clock, _ending.Token);
                var now = State();
                if (now != seen)
                {
                    (seen, steady) = (now, false);
                    continue;
                }

                if (asking is null && _absent.Count > 0 && _host.Clock.GetElapsedTime(sourcesLooked) > SourcePause)
                    asking = IsOneBackAsync();
                var isBack = asking is { IsCompleted: true } && await asking;
                if (asking is { IsCompleted: true })
                    (asking, sourcesLooked) = (null, _host.Clock.GetTimestamp());
                var doubted =
                    isBack
                    || (
                        _host.Clock.GetElapsedTime(schemaLooked) > SchemaPause && Interlocked.Exchange(ref _schemaDoubted, 0) == 1
                    );
                if (steady && !doubted)
                    continue;
                steady = true;
                if (doubted)
                    schemaLooked = _host.Clock.GetTimestamp();
                await TakeUpAsync(doubted);
            }
            catch (OperationCanceledException) when (_ending.IsCancellationRequested)
            {
                return;
            }
            catch (Exception unforeseen)
            {
                // Watching must go on whatever happens to a file. The last good site is still served.
                _logger.Error("The app file could not be taken up: {Reason}", unforeseen.Message);
            }
        }
    }

    private async Task TakeUpAsync(bool schemaDoubted)
    {
        byte[] bytes;
        try
        {
            bytes = await AppFileCompiler.ReadAsync(_file, _ending.Token);
        }
        catch (StartException gone)
        {
            _taken = [];
            var finding = new Finding(
                FindingCodes.FileUnreadable,
                new Place(_file, 1, 1),
                gone.Message,
                null,
                null,
                null,
                "Put the file back."
            );
            Report(null, [finding], () => _host.Lose(finding));
            return;
        }

        var (digest, beside) = (SHA256.HashData(bytes), _beside.State);
        if (!schemaDoubted && digest.AsSpan().SequenceEqual(_taken) && !_beside.HasChanged)
            return;
        _taken = digest;
        Seen(bytes);
        var compilation = await _compiler.CompileAsync(_file, bytes, _ending.Token);
        _beside.Take(compilation, beside);
        _absent = Absent(compilation);
        Report(compilation.Site, compilation.Findings, () => _host.Take(compilation));
        if (compilation.Site is { } site && _host.Site == site)
            _ = RetireAsync([.. compilation.Sources.Select(source => source.Source).OfType<ISource>(), .. AlsoUsed()]);
    }

    private async Task RetireAsync(HashSet<ISource> used)
    {
        try
        {
            await _registry.RetireAsync(used, LastVisits, _host.Clock);
        }
        catch (Exception unforeseen)
        {
            _logger.Warning("A source that is not used any more could not be closed: {Reason}", unforeseen.Message);
        }
    }

    /// <summary>
    /// The sources that did not answer when the app file was compiled. As soon as one does, the app file is compiled again.
    /// </summary>
    private static List<ISource> Absent(Compilation compilation) =>
        [.. compilation.Sources.Where(source => source.Absence is not null).Select(source => source.Source).OfType<ISource>()];

    private async Task<bool> IsOneBackAsync() =>
        (await Task.WhenAll(_absent.Select(_host.Sources.LookAsync))).Any(probe => probe.Trouble is null);

    private void Report(Site? site, IReadOnlyList<Finding> findings, Action take)
    {
        var same = findings.SequenceEqual(_host.Findings);
        take();
        if (!_host.File.Behind && site is not null)
            _logger.Warning(
                "The app file was taken up: {Pages} pages, {Waiting} that wait for their source, {Findings} findings",
                site.Pages.Count,
                site.Waiting.Count,
                findings.Count
            );
        else if (!same)
            _logger.Warning("The app file makes no site, or one that lacks pages, so the last good one goes on serving");
        if (same)
            return;
        foreach (var finding in findings)
            _logger.Warning("{Finding}", finding.ToString());
    }

    /// <summary>What changes when somebody saves the app file or a body of its pages.</summary>
    private string State() => $"{BesideFiles.StateOf(AppFileDisk.Target(_file))} {_beside.State}";
}
