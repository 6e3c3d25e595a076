using Jexa.Core.Definitions;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Proof;

/// <summary>Finds lists that show nothing, and blocks tied by fields whose values never meet.</summary>
internal sealed class EmptyProof(Site site, FaultPlaces places, FaultList faults)
{
    /// <summary>So many records of a page are tried before its block is said to be empty.</summary>
    private const int MostTried = 100;

    private readonly Dictionary<SiteRecord, bool> _hasRows = [];

    /// <param name="only">Only pages of these names, and those of these record kinds; empty for all.</param>
    /// <param name="isOver">Whether the sweep has to end.</param>
    public async Task ProveAsync(IReadOnlySet<string> only, Func<bool> isOver, CancellationToken cancellation)
    {
        foreach (
            var page in site.Pages.Where(page =>
                only.Count == 0 || only.Contains(page.Name) || only.Contains(page.Record?.Name ?? "")
            )
        )
        {
            if (isOver())
                return;
            await RowsAsync(page, cancellation);
            foreach (var block in (page as DetailPage)?.Blocks.Where(block => block.TiedAt is not null) ?? [])
                await BlockAsync((DetailPage)page, block, cancellation);
        }
    }

    private async Task RowsAsync(Page page, CancellationToken cancellation)
    {
        if (
            page.Record is not { } record
            || site.KindRows.FirstOrDefault(kind => kind.Rows.Record == record) is not { Rows: { } all }
        )
            return;
        try
        {
            if (!_hasRows.TryGetValue(record, out var hasRows))
                _hasRows[record] = hasRows = await HasRowsAsync(all, cancellation);
            if (!hasRows)
                Report(
                    places.Of(record),
                    record.Name,
                    $"There are no {record.Many}: nothing of their pages and of the links to them can be proved.",
                    "Sweep again when there are some; or correct the table, or visible:.",
                    null
                );
            else if (page is ListPage { Rows: [var listed, ..] } && !await HasRowsAsync(listed, cancellation))
                Report(
                    FaultPlaces.Of(page),
                    page.Name,
                    $"No {record.One} stands on the list “{page.Name}”, and there are {record.Many}.",
                    "Correct where: of the page, unless it waits for what is yet to come.",
                    page.Head.AddressWithoutParameters
                );
        }
        catch (SourceException)
        {
            // The part of the sweep that reads these rows tells it.
        }
    }

    private void Report(Place at, string about, string message, string remedy, string? address)
    {
        var fault = new Fault(ProofCodes.NothingThere, at, about, message, remedy, 1, [], null);
        faults.Put(fault with { Examples = [new FaultExample("", address, "no record")] });
    }

    private async Task BlockAsync(DetailPage page, BlockPlan block, CancellationToken cancellation)
    {
        if (
            page.Rows.FirstOrDefault(rows => rows.Part.Length == 0) is not { } all
            || block is not { TiedAt: { } at, Query: { } query }
        )
            return;
        try
        {
            if (!await HasRowsAsync(block.Rows[0], cancellation))
                return;
            var tried = new List<FaultExample>();
            var rows = new RowBlock();
            foreach (var arguments in await TiesAsync(all, block, cancellation))
            {
                rows.Reset(query.Width);
                await query.RunAsync(arguments, rows, cancellation);
                if (rows.Count > 0)
                    return;
                var fields = block.Fillers.Select((filler, i) => $"{filler.Field} {filler.Key.Write(arguments[i])}");
                tried.Add(new FaultExample("", null, $"nothing for {string.Join(", ", fields)}"));
            }

            if (tried.Count > 0)
                faults.Put(
                    new Fault(
                        ProofCodes.NeverTied,
                        at,
                        $"{page.Name} / {block.Name}",
                        $"On none of the first {page.Record!.Many} does “{page.Name}” have {block.Record!.Many}: "
                            + "what they are tied by never meets.",
                        "Tie them by fields that hold the same values: tied: { FIELD: FIELD }",
                        tried.Count,
                        [.. tried.Take(faults.Most)],
                        null
                    )
                );
        }
        catch (SourceException)
        {
            // The part of the sweep that reads these rows tells it.
        }
    }

    /// <summary>The different values by which the first records of a page look for those of the block.</summary>
    private static async Task<IReadOnlyList<TypedValue[]>> TiesAsync(RowSet all, BlockPlan block, CancellationToken cancellation)
    {
        var filled = block.Fillers.Select(filler => (Condition)new Condition.IsFilled(all.Query.Columns[filler.Ordinal].Column));
        var query = all.Record.Source.Prepare(all.Query with { Where = [.. all.Query.Where, .. filled], Limit = 10 * MostTried });
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync(all.Arguments, rows, cancellation);
        var ties = new Dictionary<string, TypedValue[]>();
        for (var i = 0; i < rows.Count && ties.Count < MostTried; i++)
        {
            var row = rows[i];
            if (!block.Fillers.All(filler => filler.Key.Holds(row[filler.Ordinal])))
                continue;
            var values = block.Fillers.Select(filler => filler.Key.ValueOf(row, filler.Ordinal)).ToArray();
            ties.TryAdd(string.Join('\n', values.Select((value, tie) => block.Fillers[tie].Key.Write(value))), values);
        }

        return [.. ties.Values];
    }

    private static async Task<bool> HasRowsAsync(RowSet all, CancellationToken cancellation)
    {
        var query = all.Record.Source.Prepare(all.Query with { Limit = 1 });
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync(all.Arguments, rows, cancellation);
        return rows.Count > 0;
    }
}
