using Jexa.Core.Addresses;
using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>Visits one record: reads its ID, loads it, decides, and only then loads what stands around it.</summary>
internal sealed class DetailVisit
{
    private readonly QueryRunner _queries;
    private readonly ListCursor _cursors;
    private readonly RecordFinder _finder;
    private readonly ListVisit _lists;
    private readonly PartBudget _budget;
    private readonly PlainLists _plains;
    private readonly NeighbourVisit _neighbours;

    public DetailVisit(QueryRunner queries, ListCursor cursors, RecordFinder finder, ListVisit lists)
    {
        (_queries, _cursors, _finder, _lists) = (queries, cursors, finder, lists);
        _budget = new PartBudget(queries);
        _plains = new PlainLists(cursors);
        _neighbours = new NeighbourVisit(queries, cursors, _plains);
    }

    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    public async ValueTask<Answer> RunAsync(
        Site site,
        DetailPage page,
        PageHead asked,
        VisitRequest request,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var loans = _queries.Begin();
        try
        {
            var record = RecordFinder.Read(site, page, asked, request, trace);
            if (record.Refused is { } turned)
                return await WithListAsync(site, page, turned, request.Target, trace, cancellation);
            var rows = loans.Lend(page.Lookup.Load.Width);
            var load = _queries.Begin(page.Lookup.Load, record.Keys, rows, trace);
            try
            {
                await load.RunAsync(cancellation);
            }
            catch (SourceException trouble)
            {
                load.Fail(trouble);
                throw;
            }

            load.End();
            var found = await _finder.DecideAsync(site, page, asked, request, record, rows, loans, trace, cancellation);
            if (found.Refused is { } refused)
            {
                trace.End(VisitStep.Decide);
                return await WithListAsync(site, page, refused, request.Target, trace, cancellation);
            }

            var view =
                page.StandsAlone && request.Target.Query.Count == 0
                    ? ViewOf(site, page, found.Row, page.Shape.Back)
                    : await AroundAsync(site, page, found.Row, request.Target, loans, trace, cancellation);
            trace.End(VisitStep.Decide);
            var answer = new Answer(Outcome.Found.Value, 200, view) { Rows = loans };
            loans = null;
            return answer;
        }
        finally
        {
            loans?.Dispose();
        }
    }

    /// <summary>What stands around a record that has been found; a part that fails does so by itself.</summary>
    private async ValueTask<DetailView> AroundAsync(
        Site site,
        DetailPage page,
        Row row,
        RequestTarget target,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var ask = await CameFromAsync(site, page, target, loans, trace, cancellation);
        var blocks = page.Blocks.Count == 0 ? [] : new BlockView[page.Blocks.Count];
        for (var i = 0; i < blocks.Length; i++)
            blocks[i] = await BlockAsync(page.Blocks[i], row, loans, trace, cancellation);
        var neighbours = await _neighbours.RunAsync(site, page, row, ask, loans, trace, cancellation);
        var beside = page.Beside is null
            ? null
            : await BesideAsync(site, page, row, ask, neighbours.Ask, loans, trace, cancellation);
        return ViewOf(site, page, row, neighbours.Back ?? page.Shape.Back) with
        {
            Previous = neighbours.Previous,
            Next = neighbours.Next,
            NeighboursLeftOut = neighbours.AreLeftOut,
            Blocks = blocks,
            Beside = beside,
        };
    }

    /// <summary>The list that a visitor comes from, if the visitor may open it.</summary>
    private async ValueTask<ListAsk?> CameFromAsync(
        Site site,
        DetailPage page,
        RequestTarget target,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        if (FromMark.Read(site, page.Record!, target, _cursors) is not { } ask)
            return null;
        try
        {
            return ask.Page.Parents.Count == 0 || await _lists.CanOpenAsync(ask, loans, trace, cancellation) ? ask : null;
        }
        catch (SourceException)
        {
            return null;
        }
    }

    private static DetailView ViewOf(Site site, DetailPage page, Row row, PlainLink? back) =>
        new(site.Frame, page.Name, page.Shape, row, back, null, null, []) { Trail = Trails.Of(page.Trail, row) };

    private async ValueTask<BlockView> BlockAsync(
        BlockPlan block,
        Row row,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        if (block.Query is not { } query)
            return new BlockView(block.Shape, null, default, null, false);
        var arguments = new TypedValue[block.Fillers.Count];
        for (var i = 0; i < arguments.Length; i++)
        {
            var filler = block.Fillers[i];
            if (!filler.Key.Holds(row[filler.Ordinal]))
                return new BlockView(block.Shape, loans.Lend(query.Width), new Total(0, true), null, false);
            arguments[i] = filler.Key.ValueOf(row, filler.Ordinal);
        }

        try
        {
            var rows = loans.Lend(query.Width);
            if (!await _budget.RunAsync(block.Record!, new WindowQuery(query, arguments), rows, trace, cancellation))
                return new BlockView(block.Shape, null, default, Written(block.All, row), true) { IsLate = true };
            var count = rows.Count == 0 ? 0 : rows[0][query.Width - 1].Integer;
            return new BlockView(block.Shape, rows, Total.Of(count, BlockPlan.CountLimit), Written(block.All, row), false)
            {
                Add = Written(block.Add, row),
            };
        }
        catch (SourceException)
        {
            return new BlockView(block.Shape, null, default, null, true);
        }
    }

    private static PlainLink? Written(LinkPlan? link, Row row)
    {
        if (link is null)
            return null;
        using var address = new Utf8Buffer(128);
        return link.TryWrite(row, address) ? new PlainLink(link.Page, link.Text, address.ToString()) : null;
    }

    /// <summary>The list beside a record, at the window the visitor came from, or where the record is.</summary>
    /// <param name="placed">The list at the place of the record.</param>
    private async ValueTask<ListView?> BesideAsync(
        Site site,
        DetailPage page,
        Row row,
        ListAsk? came,
        ListAsk? placed,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        try
        {
            var plain = PlainAsk(site, page);
            if (plain is null)
                return null;
            var ask = came?.Page == plain.Page ? came : plain;
            var view = await _lists.ViewAsync(site, ask, [], null, loans, trace, cancellation);
            var current = RowOf(page, view, row);
            if (current < 0 && placed is not null && placed.Page == plain.Page)
            {
                view = await _lists.ViewAsync(site, placed, [], null, loans, trace, cancellation);
                current = RowOf(page, view, row);
            }

            // A click keeps the window that is shown, whichever that is.
            return view with
            {
                CurrentRow = current,
                Sides = [],
                FromMark = view.FromMark.Length > 0 ? view.FromMark : plain.Page.Name,
            };
        }
        catch (SourceException)
        {
            return null;
        }
    }

    /// <summary>An answer without a record keeps the list that would stand beside it.</summary>
    private async ValueTask<Answer> WithListAsync(
        Site site,
        DetailPage page,
        Answer answer,
        RequestTarget target,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        if (page.Beside is null || answer.View is null || PlainAsk(site, page) is not { } plain)
            return answer;
        var loans = _queries.Begin();
        try
        {
            var came = await CameFromAsync(site, page, target, loans, trace, cancellation);
            var view = await _lists.ViewAsync(
                site,
                came?.Page == plain.Page ? came : plain,
                [],
                null,
                loans,
                trace,
                cancellation
            );
            trace.End(VisitStep.Decide);
            var whole = answer with
            {
                View = answer.View with
                {
                    Beside = view with { Sides = [], FromMark = view.FromMark.Length > 0 ? view.FromMark : plain.Page.Name },
                },
                Rows = loans,
            };
            loans = null;
            return whole;
        }
        catch (SourceException)
        {
            return answer;
        }
        finally
        {
            loans?.Dispose();
        }
    }

    private ListAsk? PlainAsk(Site site, DetailPage page) =>
        site.Find(page.Beside!.Name) is ListPage list ? _plains.Of(list) : null;

    /// <summary>Which row of a list is the record that is shown.</summary>
    private static int RowOf(DetailPage page, ListView view, Row record)
    {
        if (view.Shape.RecordLink is not { } link)
            return -1;
        using var own = new Utf8Buffer(128);
        using var other = new Utf8Buffer(128);
        if (link.Page != page.Name || !page.Shape.Own.TryWrite(record, own))
            return -1;
        for (var i = 0; i < view.Rows.Count; i++)
        {
            other.Truncate(0);
            if (link.TryWrite(view.Rows[i], other) && other.Written.SequenceEqual(own.Written))
                return i;
        }

        return -1;
    }
}
