using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>Finds a record's neighbours in the list the visitor comes from, or in the record's own list.</summary>
internal sealed class NeighbourVisit(QueryRunner queries, ListCursor cursors, PlainLists plains)
{
    private readonly PartBudget _budget = new(queries);

    public async ValueTask<Neighbours> RunAsync(Visit visit, DetailPage page, Row row, ListAsk? came)
    {
        var ask = came ?? Plain(visit.Site, page);
        if (ask is null)
            return default;
        var back = came is null ? null : new PlainLink(ask.Page.Name, ask.Page.Shape.Heading, came.WindowAddress);
        if (page.Head.Definition.NeighboursHidden)
            return new Neighbours(back, null, null, null);
        try
        {
            var query = ask.Query;
            if (await PlaceAsync(visit, page, query, row) is not { } place)
                return new Neighbours(back, null, null, null);
            var plan = ask.Page.NeighboursOn(page);
            var around = query.Windows.Around(query.Arguments, place, plan);
            var rows = visit.Rows.Lend(around.Query.Width);
            if (!await _budget.RunAsync(page.Record!, around, rows, visit))
                return new Neighbours(back, null, null, null, AreLeftOut: true);
            var (next, previous) = Nearest(rows);

            // The way back leads to where the visitor is then: to the window that begins with the next record, or ends with the
            // previous one.
            var cursor = cursors.Write(query, place, -1);
            var before = FromMark.Write(ask, cursor is null ? null : (ParameterReader.Before, cursor));
            var after = FromMark.Write(ask, cursor is null ? null : (ParameterReader.After, cursor));
            var areAlike = AreAlike(page, row, plan, rows);
            return new Neighbours(
                back,
                LinkTo(page, plan, rows, previous, before, areAlike),
                LinkTo(page, plan, rows, next, after, areAlike),
                page.Beside is null ? null : At(ask, query, plan, rows, previous)
            );
        }
        catch (SourceException)
        {
            return new Neighbours(back, null, null, null);
        }
    }

    private ListAsk? Plain(Site site, DetailPage page) =>
        page.List is { } list && site.Find(list.Name) is ListPage own ? plains.Of(own) : null;

    /// <summary>The record's place in the order of the list: from its own row if that has the values, else by a query.</summary>
    private async ValueTask<TypedValue[]?> PlaceAsync(Visit visit, DetailPage page, ListQuery query, Row row)
    {
        var ordinals = new List<int>();
        foreach (var key in query.Windows.Keys)
            if (page.Stored.TryGetValue(key.Column, out var ordinal))
                ordinals.Add(ordinal);
        if (ordinals.Count == query.Windows.Keys.Count)
            return CellValues.Of(row, ordinals);

        var fields = page.Record!.Key;
        var values = CellValues.Of(row, [.. fields.Select(field => page.Stored[ColumnRef.Own(field.Column.Name)])]);
        if (values is null)
            return null;
        var place = query.Windows.PlaceOf(
            query.Arguments,
            [.. fields.Select(field => ColumnRef.Own(field.Column.Name))],
            [.. values.Select(value => (value, FieldType.Any))]
        );
        var rows = visit.Rows.Lend(place.Query.Width);
        await queries.RunAsync(place.Query, place.Arguments, rows, visit);
        return rows.Count == 0 ? null : CellValues.Of(rows[0], [.. Enumerable.Range(0, query.Windows.Keys.Count)]);
    }

    /// <summary>The rows of the next and the previous record; -1 for none.</summary>
    private static (int Next, int Previous) Nearest(RowBlock rows)
    {
        var (next, previous) = (-1, -1);
        for (var i = 0; i < rows.Count; i++)
        {
            if (rows[i][rows.Width - 1].Integer == 0)
                next = i;
            else
                previous = i;
        }

        return (next, previous);
    }

    /// <summary>Whether two of the record and its neighbours are called the same.</summary>
    private static bool AreAlike(DetailPage page, Row own, NeighbourPlan plan, RowBlock rows)
    {
        using var text = new Utf8Buffer(128);
        page.Shape.Title.Write(own, text);
        var names = new HashSet<string> { text.ToString() };
        for (var i = 0; i < rows.Count; i++)
        {
            text.Truncate(0);
            plan.Label.Write(rows[i], text);
            if (!names.Add(text.ToString()))
                return true;
        }

        return false;
    }

    /// <param name="tellsId">Whether the words alone do not tell the records apart.</param>
    private static PlainLink? LinkTo(DetailPage page, NeighbourPlan plan, RowBlock rows, int row, string mark, bool tellsId)
    {
        if (row < 0)
            return null;
        using var text = new Utf8Buffer(128);
        if (!plan.Link.TryWrite(rows[row], text))
            return null;
        if (mark.Length > 0)
            text.Append($"{(text.Written.Contains((byte)'?') ? '&' : '?')}{ParameterReader.From}={mark}");
        var address = text.ToString();
        text.Truncate(0);
        plan.Label.Write(rows[row], text);
        if (tellsId && plan.Link.Fillers.Count > 0)
        {
            text.Append(" ("u8);
            plan.Link.TryWriteId(rows[row], plan.Link.Fillers.Count - 1, text);
            text.Append(")"u8);
        }

        return new PlainLink(page.Name, text.ToString(), address);
    }

    /// <summary>The list at the window that begins with the record, that is, after the previous one.</summary>
    private ListAsk? At(ListAsk ask, ListQuery query, NeighbourPlan plan, RowBlock rows, int previous)
    {
        if (previous < 0)
            return ask with { Window = WindowRequest.Start, WindowText = null };
        var ordinals = query.Windows.Keys.Select((_, i) => plan.Width + i).ToList();
        if (CellValues.Of(rows[previous], ordinals) is not { } values || cursors.Write(query, values, -1) is not { } cursor)
            return null;
        return ask with
        {
            Window = new WindowRequest(new ListPlace(values, -1), false, ParameterReader.After, KeyFault.None),
            WindowText = cursor,
        };
    }
}
