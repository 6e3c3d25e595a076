using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes rows in the look of their list: as a table, as cards, or as bullets.</summary>
internal sealed class HtmlRowWriter(HtmlParts allParts)
{
    /// <summary>A link of a whole row or card.</summary>
    public static ReadOnlySpan<byte> Whole => " class=\"whole\""u8;

    /// <summary>The rows of a list or block, in its look.</summary>
    /// <param name="view">The page with the rows.</param>
    public void Write(ListShape shape, RowBlock rows, PageView view, string mark, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = allParts.Of(shape);
        var values = new HtmlValues(view, html, scratch, mark, HtmlValues.MostInList);
        switch (shape.Look)
        {
            case ListLook.Cards:
                WriteCards(shape, parts, rows, values, html);
                break;
            case ListLook.Bullets:
                WriteBullets(shape, parts, rows, values, html);
                break;
            default:
                WriteTable(shape, parts, rows, values, (view as ListView)?.Controls, html);
                break;
        }
    }

    private void WriteTable(
        ListShape shape,
        ListParts parts,
        RowBlock rows,
        HtmlValues values,
        ListControls? controls,
        Utf8Buffer html
    )
    {
        html.Append("<table class=\"list\">\n"u8);
        WriteHead(shape, controls, html);
        html.Append("<tbody>\n"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<tr>"u8 : "<tr class=\"leads\">"u8);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                html.Append(parts.OpenCells[column]);
                values.Write(
                    parts.Columns[column],
                    row,
                    shape.Title,
                    parts.Quiet[column],
                    shape.RowLink is not null && column == parts.Main ? Whole : default
                );
            }

            if (parts.Columns.Length > 0)
                html.Append("</td>"u8);
            foreach (var action in shape.Actions)
            {
                html.Append("\n<td class=\"action\">"u8);
                WriteAction(action, shape, row, values, html);
                html.Append("</td>"u8);
            }

            html.Append("\n</tr>\n"u8);
        }

        html.Append("</tbody>\n</table>\n"u8);
    }

    /// <summary>The headings of a table, with the links that order it.</summary>
    public void WriteHead(ListShape shape, ListControls? controls, Utf8Buffer html)
    {
        var parts = allParts.Of(shape);
        if (controls is null)
            WriteHead(shape, parts, null, html);
        else
            allParts.Write(controls, isHead: true, html, into => WriteHead(shape, parts, controls, into));
    }

    private static void WriteHead(ListShape shape, ListParts parts, ListControls? controls, Utf8Buffer html)
    {
        html.Append("<thead>\n<tr>\n"u8);
        for (var i = 0; i < parts.Columns.Length; i++)
            WriteHeading(parts.Columns[i], parts.Headings[i], controls, html);
        foreach (var action in shape.Actions)
        {
            html.Append("<th scope=\"col\"><span class=\"unseen\">"u8);
            html.AppendEncoded(action.Text);
            html.Append("</span></th>\n"u8);
        }

        html.Append("</tr>\n</thead>\n"u8);
    }

    private static void WriteHeading(ViewColumn column, byte[] label, ListControls? controls, Utf8Buffer html)
    {
        html.Append("<th scope=\"col\""u8);
        if (column.IsNumeric)
            html.Append(" class=\"number\""u8);
        var order = column.OrderName is null ? null : controls?.Orders.FirstOrDefault(order => order.Name == column.OrderName);
        if (order is null)
        {
            html.Append(">"u8);
            html.Append(label);
        }
        else
        {
            if (order.Now != 0)
                html.Append(order.Now > 0 ? " aria-sort=\"ascending\""u8 : " aria-sort=\"descending\""u8);
            html.Append("><a rel=\"nofollow\" href=\""u8);
            html.AppendEncoded(order.Address);
            html.Append("\">"u8);
            html.Append(label);
            html.Append("</a>"u8);
        }

        html.Append("</th>\n"u8);
    }

    /// <summary>A named link that differs from those of other rows for users of screen readers.</summary>
    private static bool WriteAction(LinkPlan action, ListShape shape, Row row, HtmlValues values, Utf8Buffer html)
    {
        if (!values.TryOpen(action, row, false, default))
            return false;
        html.AppendEncoded(action.Text);
        html.Append("<span class=\"unseen\">: <span>"u8);
        values.WriteText(shape.Title, row);
        html.Append("</span></span></a>"u8);
        return true;
    }

    /// <summary>A named link in an element of its own, which is left out if the row does not have the link.</summary>
    private static void WriteAction(
        (byte[] Open, byte[] Close) around,
        LinkPlan action,
        ListShape shape,
        Row row,
        HtmlValues values,
        Utf8Buffer html
    )
    {
        var start = html.Length;
        html.Append(around.Open);
        if (WriteAction(action, shape, row, values, html))
            html.Append(around.Close);
        else
            html.Truncate(start);
    }

    private static readonly (byte[] Open, byte[] Close) CardAction = ("<p class=\"action\">"u8.ToArray(), "</p>\n"u8.ToArray());

    private static readonly (byte[] Open, byte[] Close) BulletAction = (
        " <span class=\"apart\">"u8.ToArray(),
        "</span>"u8.ToArray()
    );

    private static void WriteCards(ListShape shape, ListParts parts, RowBlock rows, HtmlValues values, Utf8Buffer html)
    {
        html.Append("<ul class=\"cards\">\n"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<li class=\"card\">\n"u8 : "<li class=\"card leads\">\n"u8);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                if (parts.Columns[column].Picture is null)
                    continue;
                html.Append("<div class=\"card-picture\">"u8);
                values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
                html.Append("</div>\n"u8);
            }

            if (parts.Columns.Length > 0)
            {
                html.Append("<p class=\"card-title\">"u8);
                values.Write(parts.Columns[parts.Main], row, shape.Title, false, shape.RowLink is null ? default : Whole);
                html.Append("</p>\n"u8);
            }

            WriteRest(parts, row, shape, values, html);
            foreach (var action in shape.Actions)
                WriteAction(CardAction, action, shape, row, values, html);

            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }

    /// <summary>The text of a card below its title.</summary>
    private static void WriteRest(ListParts parts, Row row, ListShape shape, HtmlValues values, Utf8Buffer html)
    {
        var any = false;
        for (var column = 0; column < parts.Columns.Length; column++)
        {
            if (column == parts.Main || parts.Columns[column].Picture is not null || parts.Columns[column].IsEmpty(row))
                continue;
            html.Append(any ? "<div><dt>"u8 : "<dl>\n<div><dt>"u8);
            any = true;
            html.Append(parts.Headings[column]);
            html.Append("</dt><dd>"u8);
            values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
            html.Append("</dd></div>\n"u8);
        }

        if (any)
            html.Append("</dl>\n"u8);
    }

    private static void WriteBullets(ListShape shape, ListParts parts, RowBlock rows, HtmlValues values, Utf8Buffer html)
    {
        html.Append("<ul class=\"bullets\">\n"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<li>"u8 : "<li class=\"leads\">"u8);
            if (parts.Columns.Length > 0)
                values.Write(parts.Columns[parts.Main], row, shape.Title, false, shape.RowLink is null ? default : Whole);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                if (column == parts.Main || parts.Columns[column].IsEmpty(row))
                    continue;
                html.Append(" <span class=\"aside\">"u8);
                values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
                html.Append("</span>"u8);
            }

            foreach (var action in shape.Actions)
                WriteAction(BulletAction, action, shape, row, values, html);

            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }
}
