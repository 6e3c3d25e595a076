using System.Runtime.CompilerServices;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Service.Health;

/// <summary>
/// Figures of the visits of the last minutes, for somebody who watches: outcomes by the second, how long pages take, slow
/// queries, IDs that failed and where their visitors came from. Bounded, and safe for concurrent use.
/// </summary>
internal sealed class VisitFigures(TimeProvider clock)
{
    /// <summary>The seconds that are kept.</summary>
    public const int Seconds = 300;

    private const int MostSlow = 30;
    private const int MostFailed = 200;

    /// <summary>A query that takes longer is slow.</summary>
    private static readonly TimeSpan Slow = TimeSpan.FromMilliseconds(50);

    private readonly OutcomeSeconds _seconds = new();
    private readonly ConditionalWeakTable<Page, PageTimes> _pages = [];
    private readonly Lock _lock = new();
    private readonly List<SlowQuery> _slow = [];
    private long _slowSeen;
    private readonly Dictionary<(string Page, string Outcome, string From), FailedVisits> _failed = [];

    /// <summary>Notes a visit that has ended.</summary>
    /// <param name="from">Where the visitor came from, as the browser said; empty if it said nothing.</param>
    public void Tell(VisitTrace trace, string from)
    {
        if (trace.Outcome is not { } outcome)
            return;
        _seconds.Add(outcome.Kind, clock.GetUtcNow().ToUnixTimeSeconds());
        if (trace.Page is { } page)
            _pages.GetOrCreateValue(page).Add(trace.TotalMicroseconds);
        foreach (var query in trace.Queries)
            if (query.Ticks * TimeSpan.TicksPerSecond / clock.TimestampFrequency > Slow.Ticks)
                NoteSlow(trace, query);
        if (outcome.Kind.Side == OutcomeSide.Visitor || outcome is Outcome.Ambiguous)
            NoteFailed(trace, outcome, from);
    }

    /// <summary>The outcomes of each second from a moment on, in order.</summary>
    /// <param name="since">A second of Unix time.</param>
    public IReadOnlyList<(long Second, IReadOnlyList<(string Outcome, int Visits)> Counts)> OutcomesSince(long since) =>
        _seconds.Since(Math.Max(since, clock.GetUtcNow().ToUnixTimeSeconds() - Seconds));

    /// <summary>How long the pages of a site take, the slowest first.</summary>
    public IReadOnlyList<(Page Page, PageTimes Times)> PagesOf(Site site, int most) =>
        [
            .. site
                .Pages.Select(page => (page, times: _pages.TryGetValue(page, out var known) ? known : null))
                .Where(pair => pair.times is not null)
                .Select(pair => (pair.page, pair.times!))
                .OrderByDescending(pair => pair.Item2.At(0.95))
                .Take(most),
        ];

    /// <summary>The slowest queries, the slowest first.</summary>
    public IReadOnlyList<SlowQuery> SlowQueries
    {
        get
        {
            lock (_lock)
                return [.. _slow];
        }
    }

    /// <summary>Visits that failed, by page and by where they came from, the most frequent first.</summary>
    public IReadOnlyList<FailedVisits> Failed(int most)
    {
        lock (_lock)
            return
            [
                .. _failed.Values.OrderByDescending(failed => failed.Visits).ThenByDescending(failed => failed.Last).Take(most),
            ];
    }

    private void NoteSlow(VisitTrace trace, TracedQuery query)
    {
        var microseconds = query.Ticks * 1_000_000.0 / clock.TimestampFrequency;
        lock (_lock)
        {
            if (_slow.Count == MostSlow && _slow[^1].Microseconds >= microseconds)
                return;
            // The same query of a page is kept once, at its slowest.
            var same = _slow.FindIndex(known => ReferenceEquals(known.Query, query.Query));
            if (same >= 0 && _slow[same].Microseconds >= microseconds)
                return;
            if (same >= 0)
                _slow.RemoveAt(same);
            else if (_slow.Count == MostSlow)
                _slow.RemoveAt(MostSlow - 1);
            var found = new SlowQuery(
                ++_slowSeen,
                trace.Page?.Name ?? "",
                trace.Number,
                query.Query,
                [.. query.Arguments],
                query.Query.Shown(query.Arguments),
                query.RowCount,
                microseconds
            );
            var at = _slow.FindIndex(known => known.Microseconds < microseconds);
            _slow.Insert(at < 0 ? _slow.Count : at, found);
        }
    }

    private void NoteFailed(VisitTrace trace, Outcome outcome, string from)
    {
        var key = (trace.Page?.Name ?? "", outcome.Word, from);
        lock (_lock)
        {
            if (_failed.TryGetValue(key, out var known))
                _failed[key] = known.With(trace.Target, trace.Number);
            else
            {
                // The ones that were seen least make room: the newest of them must have a chance.
                if (_failed.Count >= MostFailed)
                    _failed.Remove(_failed.MinBy(pair => (pair.Value.Visits, pair.Value.Last)).Key);
                _failed[key] = new FailedVisits(key.Item1, outcome.Word, from, [trace.Target], 1, trace.Number);
            }
        }
    }
}
