using System.Runtime.CompilerServices;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.State;

namespace Jexa.Service.Health;

/// <summary>
/// Whether pages can be read and changes can be saved, from the visits of the last ten seconds. A source without visits is
/// probed.
/// </summary>
internal sealed class VisitHealth(SourceProbes probes, ChangeStore log, TimeProvider clock)
{
    private static readonly TimeSpan GoodFor = TimeSpan.FromSeconds(1);

    private readonly ConditionalWeakTable<Page, PageWindows> _pages = [];
    private readonly Lock _looking = new();
    private (long At, Task<bool> Answer)? _writable;

    /// <summary>Notes a visit that has ended.</summary>
    public void Tell(VisitTrace trace)
    {
        if (trace.Page is not { } page || trace.Outcome is not { } outcome)
            return;
        var windows = _pages.GetOrCreateValue(page);
        var well = outcome is not (Outcome.Unavailable or Outcome.Failed);
        (trace.Method is "GET" or "HEAD" ? windows.Reads : windows.Saves).Add(well, Second());
    }

    /// <summary>Whether every source can be read, and every page of the app file is served.</summary>
    public async Task<bool> IsReadableAsync(Site site)
    {
        if (site.Waiting.Count > 0)
            return false;
        var unvisited = new List<ISource>();
        foreach (var pages in BySource(site))
        {
            var judged = Judge([.. pages], windows => windows.Reads);
            if (judged == false)
                return false;
            if (judged is null)
                unvisited.Add(pages.Key);
        }

        return await AnswerAsync(unvisited);
    }

    /// <summary>
    /// Whether changes can be saved: the change log can be written, and so can every source that a page changes.
    /// </summary>
    public Task<bool> IsWritableAsync(Site site)
    {
        lock (_looking)
        {
            if (_writable is { } last && (!last.Answer.IsCompleted || clock.GetElapsedTime(last.At) < GoodFor))
                return last.Answer;
            _writable = (clock.GetTimestamp(), Task.Run(() => LookAsync(site)));
            return _writable.Value.Answer;
        }
    }

    private async Task<bool> LookAsync(Site site)
    {
        var changing = BySource(site).Where(pages => pages.Any(IsChanging)).ToList();
        if (changing.Count == 0)
            return true;
        if (!log.IsWritable())
            return false;
        foreach (var pages in changing)
        {
            var judged = Judge([.. pages.Where(IsChanging)], windows => windows.Saves);
            if (judged == false || (judged is null && !await CanBeginAsync(pages.Key)))
                return false;
        }

        return true;
    }

    /// <summary>
    /// Whether a source's pages went well lately: not if most visits failed on at least half of its pages. One page can fail by
    /// its own fault, so it counts only if the source has no other. Null if visits tell nothing.
    /// </summary>
    private bool? Judge(IReadOnlyList<Page> pages, Func<PageWindows, OutcomeWindow> which)
    {
        var (visited, ill) = (0, 0);
        foreach (var page in pages)
        {
            if (!_pages.TryGetValue(page, out var windows))
                continue;
            var count = which(windows).Count(Second());
            if (count.Well + count.Ill == 0)
                continue;
            visited++;
            if (count.Ill > count.Well)
                ill++;
        }

        if (ill > 0 && ill * 2 >= visited && (ill > 1 || pages.Count == 1))
            return false;
        return visited > ill ? true : null;
    }

    private async Task<bool> AnswerAsync(List<ISource> sources) =>
        (await Task.WhenAll(sources.Select(probes.LookAsync))).All(probe => probe.Trouble is null);

    private static async Task<bool> CanBeginAsync(ISource source)
    {
        try
        {
            await using var session = await source.BeginWriteAsync(CancellationToken.None);
            return true;
        }
        catch (Exception trouble) when (trouble is SourceException or ObjectDisposedException)
        {
            return false;
        }
    }

    private static IEnumerable<IGrouping<ISource, Page>> BySource(Site site) =>
        site.Pages.Where(page => page.Record is not null).GroupBy(page => page.Record!.Source);

    private static bool IsChanging(Page page) => page is EditPage or NewPage or DeletePage;

    /// <summary>From 1 on, so that 0 is not a second.</summary>
    private long Second() => (long)clock.GetElapsedTime(0).TotalSeconds + 1;

    private sealed class PageWindows
    {
        public OutcomeWindow Reads { get; } = new();

        public OutcomeWindow Saves { get; } = new();
    }
}
