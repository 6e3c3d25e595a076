using System.Collections.Concurrent;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>
/// Counts the values of side lists. Slow counts are kept for a minute, and the page says so. Very slow counts run in the
/// background for the next visit. A side list that fails does not affect the page.
/// </summary>
internal sealed class SideVisit(QueryRunner queries)
{
    private const int MostKept = 200;
    private static readonly TimeSpan Slow = TimeSpan.FromMilliseconds(50);
    private static readonly TimeSpan KeptFor = TimeSpan.FromMinutes(1);

    /// <summary>Counts that run in the background.</summary>
    private readonly ConcurrentDictionary<(IPreparedQuery Query, string Arguments), Lazy<Task<RowBlock>>> _counting = [];

    /// <summary>Slow counts and their time; no rows if counting failed.</summary>
    private readonly ConcurrentDictionary<(IPreparedQuery Query, string Arguments), (RowBlock? Rows, long At)> _kept = [];

    public async ValueTask<IReadOnlyList<SideView>> RunAsync(Visit visit, ListAsk ask)
    {
        if (ask.Page.Sides.Count == 0)
            return [];
        var views = new List<SideView>(ask.Page.Sides.Count);
        foreach (var side in ask.Page.Sides)
            if (!LacksYear(ask, side))
                views.Add(await RunAsync(visit, ask, side));
        return views;
    }

    /// <summary>Months belong to a year: without a year they have no links.</summary>
    private static bool LacksYear(ListAsk ask, SidePlan side)
    {
        if (side.Key != DatePartKey.Month)
            return false;
        for (var i = 0; i < side.Carried.Count; i++)
            if (
                side.Target.Parameters[i].Key == DatePartKey.Year
                && (side.Carried[i] < 0 || ask.Texts[side.Carried[i]].Count == 0)
            )
                return true;
        return false;
    }

    private async ValueTask<SideView> RunAsync(Visit visit, ListAsk ask, SidePlan side)
    {
        var texts = side.Carried.Select((number, i) => number < 0 || i == side.Parameter ? [] : ask.Texts[number]).ToArray();
        var all = AllOf(ask, side, texts);
        try
        {
            var values = side.Carried.Select(
                (number, i) => number < 0 || i == side.Parameter ? [] : ask.Request.Values.Values[number]
            );
            var given = new ParameterValues([.. values]);
            var (counted, isExact) = await CountAsync(visit, side, given, ask);
            if (counted is not { } rows)
                return new SideView(side.Title, [], all, true, true, false) { IsBeingCounted = true };
            var own = side.IsSelf ? side.Parameter : -1;
            var entries = new List<SideEntry>();
            using var buffer = new Utf8Buffer(64);
            for (var i = 0; i < Math.Min(rows.Count, SidePlan.MaxGroups); i++)
            {
                var row = rows[i];
                buffer.Truncate(0);
                side.Label.Write(row, buffer);
                var text =
                    row[0].IsNull ? "empty"
                    : buffer.Length == 0 ? "—"
                    : buffer.ToString();
                buffer.Truncate(0);
                var id =
                    side.Key.Holds(row[0]) && side.Key.TryWrite(row, 0, buffer) && buffer.Length > 0 ? buffer.ToString() : null;
                var current = id is not null && own >= 0 && ask.Texts[own].Contains(id);
                if (id is not null)
                    texts[side.Parameter] = [id];
                entries.Add(
                    new SideEntry(text, id is null ? null : AddressOf(ask, side, texts), row[side.CountOrdinal].Integer, current)
                );
            }

            return new SideView(side.Title, entries, all, rows.Count <= SidePlan.MaxGroups, isExact, false);
        }
        catch (SourceException)
        {
            return new SideView(side.Title, [], all, true, true, true);
        }
    }

    /// <summary>The counts; null while they run in the background.</summary>
    private async ValueTask<(RowBlock? Rows, bool IsExact)> CountAsync(
        Visit visit,
        SidePlan side,
        ParameterValues values,
        ListAsk ask
    )
    {
        var words = ask.Request.Words;
        // Moments are counted by several queries; one of them identifies all.
        var query = side.Clocks is { } clocks ? MomentCounts.Identity(side, clocks, values, words) : side.For(values, words);
        var asked = (query.Query, ArgumentKey.Of(query.Arguments));
        if (_kept.TryGetValue(asked, out var kept))
        {
            if (queries.Clock.GetElapsedTime(kept.At) < KeptFor)
                return (
                    kept.Rows
                        ?? throw new SourceException(SourceTrouble.TooSlow, "Counting took too long within the last minute."),
                    false
                );
            _kept.TryRemove(asked, out _);
        }

        var started = queries.Clock.GetTimestamp();
        if (ask.Page.Record!.Table.IsLarge)
        {
            // The visit may end before its count does. Then its trace has no note of it.
            var counting = _counting
                .GetOrAdd(asked, _ => new Lazy<Task<RowBlock>>(() =>
                    BehindAsync(asked, () =>
                        AllAsync(side, values, words, (one, into) =>
                            one.Query.RunAsync(one.Arguments, into, CancellationToken.None)
                        )
                    )
                ))
                .Value;
            if (await Task.WhenAny(counting, Task.Delay(PartBudget.Most, queries.Clock, visit.Cancellation)) != counting)
                return (null, false);
            var counted = await counting;
            if (side.Clocks is null)
                visit.Trace.Add(query.Query, query.Arguments, counted, counted.Count, started);
            return (counted, true);
        }

        var rows = await AllAsync(side, values, words, (one, into) => queries.RunAsync(one.Query, one.Arguments, into, visit));
        Keep(asked, rows, started);
        return (rows, true);
    }

    /// <summary>All counts of a side list.</summary>
    /// <param name="run">Runs one query.</param>
    private static async ValueTask<RowBlock> AllAsync(
        SidePlan side,
        ParameterValues values,
        IReadOnlyList<string> words,
        Func<WindowQuery, RowBlock, ValueTask> run
    )
    {
        if (side.Clocks is { } zone)
            return await new MomentCounts(side, zone, values, words, run).CountAsync();
        var rows = new RowBlock();
        rows.Reset(side.Width);
        await run(side.For(values, words), rows);
        return rows;
    }

    /// <summary>Counts in the background. Each query ends at the source's time limit.</summary>
    private async Task<RowBlock> BehindAsync((IPreparedQuery Query, string Arguments) asked, Func<ValueTask<RowBlock>> count)
    {
        await Task.Yield();
        var started = queries.Clock.GetTimestamp();
        try
        {
            var rows = await count();
            Keep(asked, rows, started);
            return rows;
        }
        catch (SourceException)
        {
            Keep(asked, null, started);
            throw;
        }
        finally
        {
            _counting.TryRemove(asked, out _);
        }
    }

    private void Keep((IPreparedQuery Query, string Arguments) asked, RowBlock? rows, long started)
    {
        if (queries.Clock.GetElapsedTime(started) < Slow)
            return;
        if (_kept.Count >= MostKept)
            _kept.Clear();
        _kept[asked] = (rows, queries.Clock.GetTimestamp());
    }

    /// <summary>
    /// The address of the list with these texts; null if no address can contain them, or if another page has it.
    /// </summary>
    private static string? AddressOf(ListAsk ask, SidePlan side, IReadOnlyList<string>[] texts)
    {
        if (side.Target.Builder.Build(texts) is not { } address || side.Target.OwnsAddress?.Invoke(address) == false)
            return null;
        return side.IsSelf ? ask.Address(texts, ask.Order) : address;
    }

    private static PlainLink? AllOf(ListAsk ask, SidePlan side, IReadOnlyList<string>[] texts)
    {
        if (side.All is not { } all || (all.Name == ask.Page.Name && !side.IsSelf))
            return null;
        var address = all.Name == side.Target.Name ? AddressOf(ask, side, texts) : all.AddressWithoutParameters;
        return address is null ? null : new PlainLink(all.Name, "All", address);
    }
}
