using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Lists;

/// <summary>
/// Counts moments by local years or months. Each is a range of stored moments, so that the source need not know the zone, and an
/// index can be used.
/// </summary>
/// <param name="run">Runs one query of the side list.</param>
internal sealed class MomentCounts(
    SidePlan side,
    Formats.Conventions clocks,
    ParameterValues values,
    IReadOnlyList<string> words,
    Func<WindowQuery, RowBlock, ValueTask> run
)
{
    /// <summary>The query that identifies these counts; for months, that of their year.</summary>
    public static WindowQuery Identity(
        SidePlan side,
        Formats.Conventions clocks,
        ParameterValues values,
        IReadOnlyList<string> words
    ) =>
        side.IsMonths && YearOf(side, values) is { } year
            ? side.Between(values, words, clocks.Kept(new DateOnly(year, 1, 1)), clocks.Kept(new DateOnly(year + 1, 1, 1)))
            : side.Edge(values, words, last: false);

    /// <summary>A row for each year or month that occurs, with its count.</summary>
    public async ValueTask<RowBlock> CountAsync()
    {
        var counts = new RowBlock();
        counts.Reset(2);
        var spans = await SpansAsync();
        if (side.Descending)
            spans.Reverse();
        foreach (var (value, from, to) in spans)
        {
            var rows = await OfOneCellAsync(side.Between(values, words, clocks.Kept(from), clocks.Kept(to)));
            if (rows.Count == 0 || rows[0][0].Integer == 0)
                continue;
            counts.BeginRow();
            counts.AddNumber(CellKind.Integer, value);
            counts.AddNumber(CellKind.Integer, rows[0][0].Integer);
        }

        return counts;
    }

    private async ValueTask<List<(int Value, DateOnly From, DateOnly To)>> SpansAsync()
    {
        if (side.IsMonths)
        {
            if (YearOf(side, values) is not { } year)
                return [];
            return
            [
                .. Enumerable
                    .Range(1, 12)
                    .Select(month => (month, new DateOnly(year, month, 1), new DateOnly(year, month, 1).AddMonths(1))),
            ];
        }

        if (await EdgeAsync(last: false) is not { } first || await EdgeAsync(last: true) is not { } last)
            return [];

        // Years too far back to be listed are left out.
        var begin = Math.Max(first, last - SidePlan.MaxGroups);
        return
        [
            .. Enumerable
                .Range(begin, last - begin + 1)
                .Select(year => (year, new DateOnly(year, 1, 1), new DateOnly(year + 1, 1, 1))),
        ];
    }

    private async ValueTask<int?> EdgeAsync(bool last)
    {
        var rows = await OfOneCellAsync(side.Edge(values, words, last));
        return rows.Count == 1 && rows[0][0].Kind == CellKind.Timestamp
            ? Math.Clamp(clocks.Shown(new DateTime(rows[0][0].Integer)).Year, 1, 9998)
            : null;
    }

    /// <summary>The chosen year; null for none.</summary>
    private static int? YearOf(SidePlan side, ParameterValues values)
    {
        for (var i = 0; i < side.Carried.Count; i++)
            if (side.Target.Parameters[i].Key == DatePartKey.Year && values.Has(i))
                return (int)((TypedValue.Whole)values.One(i)).Value;
        return null;
    }

    private async ValueTask<RowBlock> OfOneCellAsync(WindowQuery query)
    {
        var rows = new RowBlock();
        rows.Reset(1);
        await run(query, rows);
        return rows;
    }
}
