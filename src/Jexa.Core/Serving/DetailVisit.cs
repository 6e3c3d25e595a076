using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>Visits one record: reads its ID, loads the record, decides, and then loads what is around it.</summary>
internal sealed class DetailVisit
{
    private readonly ListCursor _cursors;
    private readonly RecordFinder _finder;
    private readonly ListVisit _lists;
    private readonly PartBudget _budget;
    private readonly PlainLists _plains;
    private readonly NeighbourVisit _neighbours;

    public DetailVisit(QueryRunner queries, ListCursor cursors, RecordFinder finder, ListVisit lists)
    {
        (_cursors, _finder, _lists) = (cursors, finder, lists);
        _budget = new PartBudget(queries);
        _plains = new PlainLists(cursors);
        _neighbours = new NeighbourVisit(queries, cursors, _plains);
    }

    public async ValueTask<Answer> RunAsync(Visit visit, DetailPage page)
    {
        var found = await _finder.FindAsync(visit, page);
        if (found.Refused is { } refused)
        {
            var answer = await WithListAsync(visit, page, refused);
            if (visit.Trace.Has(VisitStep.Load))
                visit.Trace.End(VisitStep.Decide);
            return answer;
        }

        var view =
            page.StandsAlone && visit.Target.Query.Count == 0
                ? ViewOf(visit.Site, page, found.Row, page.Shape.Back)
                : await AroundAsync(visit, page, found.Row);
        visit.Trace.End(VisitStep.Decide);
        if (LostChoice(visit, page, view) is { } lost)
            return lost;
        return new Answer(Outcome.Found.Value, 200, view);
    }

    /// <summary>The answer if the address chooses a record that the block does not have; null if it does not.</summary>
    private static Answer? LostChoice(Visit visit, DetailPage page, DetailView view)
    {
        foreach (var block in view.Blocks)
            if (
                block is { Shape.Choice: { } choice, Chosen: < 0, Rows: { } rows }
                && (
                    rows.Count > 0
                    || ParameterReader.FromQuery(visit.Target.Query, choice.Parameter)
                        is not { Text: null, Fault: Keys.KeyFault.None }
                )
            )
            {
                visit.Trace.Why =
                    $"The address chooses a {choice.Shape.One} by {choice.Parameter} that is not one of this record’s.";
                return Answer.Of(
                    new Outcome.Unknown(),
                    Messages.UnknownChoice(visit.Site, page, choice, Address(page, view.Record))
                );
            }

        return null;
    }

    private static string Address(DetailPage page, Row row)
    {
        using var address = new Utf8Buffer(128);
        return page.Shape.Own.TryWrite(row, address) ? address.ToString() : "";
    }

    /// <summary>The row that the address chooses: the first if it chooses none; -1 if there is no such row.</summary>
    private static int Chosen(Visit visit, BlockShape shape, RowBlock rows)
    {
        if (shape.Choice is not { } choice)
            return -1;
        var asked = ParameterReader.FromQuery(visit.Target.Query, choice.Parameter);
        if (asked.Fault != Keys.KeyFault.None || asked.Text is not { } text)
            return rows.Count > 0 && asked.Fault == Keys.KeyFault.None ? 0 : -1;
        using var id = new Utf8Buffer(64);
        for (var i = 0; i < rows.Count; i++)
        {
            id.Truncate(0);
            if (choice.Key.Key.TryWrite(rows[i], choice.Key.Ordinal, id) && id.ToString() == text)
                return i;
        }

        return -1;
    }

    /// <summary>Loads what is around a record. A part that fails does not affect the others.</summary>
    private async ValueTask<DetailView> AroundAsync(Visit visit, DetailPage page, Row row)
    {
        var ask = await CameFromAsync(visit, page);
        var blocks = page.Blocks.Count == 0 ? [] : new BlockView[page.Blocks.Count];
        for (var i = 0; i < blocks.Length; i++)
            blocks[i] = await BlockAsync(visit, page.Blocks[i], row);
        var neighbours = await _neighbours.RunAsync(visit, page, row, ask);
        var beside = page.Beside is null ? null : await BesideAsync(visit, page, row, ask, neighbours.Ask);
        return ViewOf(visit.Site, page, row, neighbours.Back ?? page.Shape.Back) with
        {
            Previous = neighbours.Previous,
            Next = neighbours.Next,
            NeighboursLeftOut = neighbours.AreLeftOut,
            Blocks = blocks,
            Beside = beside,
        };
    }

    /// <summary>The list that the visitor comes from, if the visitor may open it.</summary>
    private async ValueTask<ListAsk?> CameFromAsync(Visit visit, DetailPage page)
    {
        if (FromMark.Read(visit.Site, page.Record!, visit.Target, _cursors) is not { } ask)
            return null;
        try
        {
            return ask.Page.Parents.Count == 0 || await _lists.CanOpenAsync(visit, ask) ? ask : null;
        }
        catch (SourceException)
        {
            return null;
        }
    }

    private static DetailView ViewOf(Site site, DetailPage page, Row row, PlainLink? back) =>
        new(site.Frame, page.Name, page.Shape, row, back, null, null, []) { Trail = Trails.Of(page.Trail, row) };

    private async ValueTask<BlockView> BlockAsync(Visit visit, BlockPlan block, Row row)
    {
        if (block.Query is not { } query)
            return new BlockView(block.Shape, null, default, null, false);
        var arguments = new TypedValue[block.Fillers.Count];
        for (var i = 0; i < arguments.Length; i++)
        {
            var filler = block.Fillers[i];
            if (!filler.Key.Holds(row[filler.Ordinal]))
                return new BlockView(block.Shape, visit.Rows.Lend(query.Width), new Total(0, true), null, false);
            arguments[i] = filler.Key.ValueOf(row, filler.Ordinal);
        }

        try
        {
            var rows = visit.Rows.Lend(query.Width);
            if (visit.Request.ShowsNoRows)
                return new BlockView(block.Shape, rows, new Total(0, true), null, false) { Add = Written(block.Add, row) };
            if (!await _budget.RunAsync(block.Record!, new WindowQuery(query, arguments), rows, visit))
                return new BlockView(block.Shape, null, default, Written(block.All, row), true) { IsLate = true };
            var count = rows.Count == 0 ? 0 : rows[0][query.Width - 1].Integer;
            return new BlockView(block.Shape, rows, Total.Of(count, BlockPlan.CountLimit), Written(block.All, row), false)
            {
                Add = Written(block.Add, row),
                Chosen = Chosen(visit, block.Shape, rows),
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

    /// <summary>The list beside a record: the window that the visitor came from, or the one with the record.</summary>
    /// <param name="placed">The list at the place of the record.</param>
    private async ValueTask<ListView?> BesideAsync(Visit visit, DetailPage page, Row row, ListAsk? came, ListAsk? placed)
    {
        try
        {
            var plain = PlainAsk(visit.Site, page);
            if (plain is null)
                return null;
            var ask = came?.Page == plain.Page ? came : plain;
            var view = await _lists.ViewAsync(visit, ask, [], null);
            var current = RowOf(page, view, row);
            if (current < 0 && placed is not null && placed.Page == plain.Page)
            {
                view = await _lists.ViewAsync(visit, placed, [], null);
                current = RowOf(page, view, row);
            }

            // A click keeps the window that is shown.
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

    /// <summary>An answer without a record keeps the list beside it.</summary>
    private async ValueTask<Answer> WithListAsync(Visit visit, DetailPage page, Answer answer)
    {
        if (page.Beside is null || answer.View is null || PlainAsk(visit.Site, page) is not { } plain)
            return answer;
        try
        {
            var came = await CameFromAsync(visit, page);
            var view = await _lists.ViewAsync(visit, came?.Page == plain.Page ? came : plain, [], null);
            return answer with
            {
                View = answer.View with
                {
                    Beside = view with { Sides = [], FromMark = view.FromMark.Length > 0 ? view.FromMark : plain.Page.Name },
                },
            };
        }
        catch (SourceException)
        {
            return answer;
        }
    }

    private ListAsk? PlainAsk(Site site, DetailPage page) =>
        site.Find(page.Beside!.Name) is ListPage list ? _plains.Of(list) : null;

    /// <summary>The row of a list that is the record on screen.</summary>
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
