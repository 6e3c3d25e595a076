using System.Globalization;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes lists: what can be asked of them, their rows in each look, side lists, and the ways to other windows.</summary>
internal sealed class HtmlListWriter(HtmlParts allParts)
{
    public void Write(ListView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        HtmlFrame.WriteTrail(view.Trail, null, html);
        html.Append("<div class=\"lead\">\n<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n<p class=\"total\">"u8);
        html.AppendEncoded(TotalText(view));
        html.Append("</p>\n</div>\n"u8);
        if (view.Notice is { } notice) WriteNotice(notice, html);
        if (view.Sides.Count > 0) html.Append("<div class=\"sided\">\n<div class=\"middle\">\n"u8);
        WriteControls(view, html);
        if (view.Rows.Count == 0) WriteNoRows(view, html);
        else WriteRows(view.Shape, view.Rows, view, view.FromMark, html, scratch);
        WriteTurns(view, html);
        if (view.Sides.Count > 0) WriteSides(view, html);
    }

    /// <summary>The rows of a list or block, in its look.</summary>
    /// <param name="view">The page that the rows stand on.</param>
    public void WriteRows(ListShape shape, RowBlock rows, PageView view, string mark, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = allParts.Of(shape);
        var values = new HtmlValues(view, html, scratch, mark);
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

    /// <summary>The list that stands beside a record: its records' names, the current one marked.</summary>
    public void WriteBeside(ListView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = allParts.Of(view.Shape);
        var values = new HtmlValues(view, html, scratch, view.FromMark);
        html.Append("<nav class=\"index\" aria-label=\""u8);
        html.AppendEncoded(view.Heading);
        html.Append("\">\n<p class=\"index-head\"><a href=\""u8);
        html.AppendEncoded(view.Controls.Action);
        html.Append("\">"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</a> <span class=\"total\">"u8);
        html.AppendEncoded(TotalText(view));
        html.Append("</span></p>\n<ul>\n"u8);
        for (var i = 0; i < view.Rows.Count; i++)
        {
            var row = view.Rows[i];
            html.Append(i == view.CurrentRow ? "<li class=\"current\">"u8 : "<li>"u8);
            var linked = view.Shape.RecordLink is { } link && values.TryOpen(link, row, false, i == view.CurrentRow ? "here"u8 : default);
            if (parts.Columns.Length > 0 && parts.Columns[parts.Main] is { Picture: null, Reference: null } main && !main.IsEmpty(row)) values.Write(main with { Link = null }, row, null, false, default);
            else values.WriteText(view.Shape.Title, row);
            if (linked) html.Append("</a>"u8);
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n</nav>\n"u8);
    }

    private void WriteTable(ListShape shape, ListParts parts, RowBlock rows, HtmlValues values, ListControls? controls, Utf8Buffer html)
    {
        if (controls is null) WriteHead(shape, parts, null, html);
        else allParts.Write(controls, isHead: true, html, into => WriteHead(shape, parts, controls, into));
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<tr>"u8 : "<tr class=\"leads\">"u8);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                html.Append(parts.OpenCells[column]);
                values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], shape.RowLink is not null && column == parts.Main ? "whole"u8 : default);
            }

            if (parts.Columns.Length > 0) html.Append("</td>"u8);
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

    private static void WriteHead(ListShape shape, ListParts parts, ListControls? controls, Utf8Buffer html)
    {
        html.Append("<table class=\"list\">\n<thead>\n<tr>\n"u8);
        for (var i = 0; i < parts.Columns.Length; i++) WriteHeading(parts.Columns[i], parts.Headings[i], controls, html);
        foreach (var action in shape.Actions)
        {
            html.Append("<th scope=\"col\"><span class=\"unseen\">"u8);
            html.AppendEncoded(action.Text);
            html.Append("</span></th>\n"u8);
        }

        html.Append("</tr>\n</thead>\n<tbody>\n"u8);
    }

    private static void WriteHeading(ViewColumn column, byte[] label, ListControls? controls, Utf8Buffer html)
    {
        html.Append("<th scope=\"col\""u8);
        if (column.IsNumeric) html.Append(" class=\"number\""u8);
        var order = column.OrderName is null ? null : controls?.Orders.FirstOrDefault(order => order.Name == column.OrderName);
        if (order is null)
        {
            html.Append(">"u8);
            html.Append(label);
        }
        else
        {
            if (order.Now != 0) html.Append(order.Now > 0 ? " aria-sort=\"ascending\""u8 : " aria-sort=\"descending\""u8);
            html.Append("><a rel=\"nofollow\" href=\""u8);
            html.AppendEncoded(order.Turned);
            html.Append("\">"u8);
            html.Append(label);
            html.Append("</a>"u8);
        }

        html.Append("</th>\n"u8);
    }

    /// <summary>A named link, told apart from those of other rows for whoever hears it.</summary>
    private static void WriteAction(LinkPlan action, ListShape shape, Row row, HtmlValues values, Utf8Buffer html)
    {
        if (!values.TryOpen(action, row, false, default)) return;
        html.AppendEncoded(action.Text);
        html.Append("<span class=\"unseen\">: "u8);
        values.WriteText(shape.Title, row);
        html.Append("</span></a>"u8);
    }

    private static void WriteCards(ListShape shape, ListParts parts, RowBlock rows, HtmlValues values, Utf8Buffer html)
    {
        html.Append("<ul class=\"cards\">\n"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<li class=\"card\">\n"u8 : "<li class=\"card leads\">\n"u8);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                if (parts.Columns[column].Picture is null) continue;
                html.Append("<div class=\"card-picture\">"u8);
                values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
                html.Append("</div>\n"u8);
            }

            if (parts.Columns.Length > 0)
            {
                html.Append("<p class=\"card-title\">"u8);
                values.Write(parts.Columns[parts.Main], row, shape.Title, false, shape.RowLink is null ? default : "whole"u8);
                html.Append("</p>\n"u8);
            }

            WriteRest(parts, row, shape, values, html);
            foreach (var action in shape.Actions)
            {
                html.Append("<p class=\"action\">"u8);
                WriteAction(action, shape, row, values, html);
                html.Append("</p>\n"u8);
            }

            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }

    /// <summary>What a card says beneath its title.</summary>
    private static void WriteRest(ListParts parts, Row row, ListShape shape, HtmlValues values, Utf8Buffer html)
    {
        var any = false;
        for (var column = 0; column < parts.Columns.Length; column++)
        {
            if (column == parts.Main || parts.Columns[column].Picture is not null || parts.Columns[column].IsEmpty(row)) continue;
            html.Append(any ? "<div><dt>"u8 : "<dl>\n<div><dt>"u8);
            any = true;
            html.Append(parts.Headings[column]);
            html.Append("</dt><dd>"u8);
            values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
            html.Append("</dd></div>\n"u8);
        }

        if (any) html.Append("</dl>\n"u8);
    }

    private static void WriteBullets(ListShape shape, ListParts parts, RowBlock rows, HtmlValues values, Utf8Buffer html)
    {
        html.Append("<ul class=\"bullets\">\n"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            var row = rows[i];
            html.Append(shape.RowLink is null ? "<li>"u8 : "<li class=\"leads\">"u8);
            if (parts.Columns.Length > 0) values.Write(parts.Columns[parts.Main], row, shape.Title, false, shape.RowLink is null ? default : "whole"u8);
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                if (column == parts.Main || parts.Columns[column].IsEmpty(row)) continue;
                html.Append(" <span class=\"aside\">"u8);
                values.Write(parts.Columns[column], row, shape.Title, parts.Quiet[column], default);
                html.Append("</span>"u8);
            }

            foreach (var action in shape.Actions)
            {
                html.Append(" <span class=\"apart\">"u8);
                WriteAction(action, shape, row, values, html);
                html.Append("</span>"u8);
            }

            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }

    private static void WriteNotice(string notice, Utf8Buffer html)
    {
        html.Append("<p class=\"notice\" role=\"status\">"u8);
        html.AppendEncoded(notice);
        html.Append("</p>\n"u8);
    }

    private static void WriteNoRows(ListView view, Utf8Buffer html)
    {
        html.Append("<p class=\"none-yet\">"u8);
        var many = view.Shape.Many;
        html.AppendEncoded(view.Windows.First is not null ? $"No more {many} come after this place."
            : view.Controls.IsNarrowed ? $"No {many} are like that." : view.Controls.Kept.Count > 0 || view.Trail.Count > 0 ? $"There are no {many} here." : $"There are no {many} yet.");
        if (view.Controls.IsNarrowed)
        {
            html.Append(" <a href=\""u8);
            html.AppendEncoded(view.Controls.Action);
            html.Append("\">"u8);
            html.AppendEncoded($"Show all {many}");
            html.Append("</a>"u8);
        }

        html.Append("</p>\n"u8);
    }

    private void WriteControls(ListView view, Utf8Buffer html)
    {
        var few = view.Windows is { First: null, Next: null } && view.Rows.Count <= view.Controls.Sizes[0];
        if (view.Controls.Find is not null || !few) allParts.Write(view.Controls, isHead: false, html, into => WriteForm(view, into));
    }

    /// <summary>A plain form: what is searched for, in which order, how many at a time.</summary>
    private static void WriteForm(ListView view, Utf8Buffer html)
    {
        var controls = view.Controls;
        html.Append("<form class=\"ask\" method=\"get\" role=\"search\" action=\""u8);
        html.AppendEncoded(controls.Action);
        html.Append("\">\n"u8);
        foreach (var (name, value) in controls.Kept)
        {
            html.Append("<input type=\"hidden\" name=\""u8);
            html.AppendEncoded(name);
            html.Append("\" value=\""u8);
            html.AppendEncoded(value);
            html.Append("\">\n"u8);
        }

        if (controls.Find is { } find)
        {
            html.Append("<label class=\"find\"><span>Find</span> <input type=\"search\" name=\"find\" maxlength=\"200\" value=\""u8);
            html.AppendEncoded(find);
            html.Append("\"></label>\n"u8);
        }

        if (controls.Orders.Count > 0) WriteOrders(view, html);
        html.Append("<label><span>Rows</span> <select name=\"size\">"u8);
        foreach (var size in controls.Sizes)
            WriteOption(size == controls.OwnSize ? "" : size.ToString(CultureInfo.InvariantCulture), size.ToString(CultureInfo.InvariantCulture), size == controls.Size, html);
        html.Append("</select></label>\n<button>Show</button>\n"u8);
        html.Append("</form>\n"u8);
    }

    private static void WriteOrders(ListView view, Utf8Buffer html)
    {
        var controls = view.Controls;
        html.Append(view.Shape.Look == ListLook.Table ? "<label class=\"by-heading\"><span>Order</span> <select name=\"order\">"u8 : "<label><span>Order</span> <select name=\"order\">"u8);
        WriteOption("", "usual", controls.Order.Length == 0, html);
        foreach (var order in controls.Orders)
        {
            WriteOption(order.Name, $"{order.Label}, rising", controls.Order == order.Name, html);
            WriteOption("-" + order.Name, $"{order.Label}, falling", controls.Order == "-" + order.Name, html);
        }

        html.Append("</select></label>\n"u8);
    }

    private static void WriteOption(string value, string text, bool selected, Utf8Buffer html)
    {
        html.Append("<option value=\""u8);
        html.AppendEncoded(value);
        html.Append(selected ? "\" selected>"u8 : "\">"u8);
        html.AppendEncoded(text);
        html.Append("</option>"u8);
    }

    private static void WriteSides(ListView view, Utf8Buffer html)
    {
        html.Append("</div>\n<div class=\"sides\">\n"u8);
        foreach (var side in view.Sides)
        {
            html.Append("<nav class=\"side\" aria-label=\""u8);
            html.AppendEncoded(side.Title);
            html.Append("\">\n<h2>"u8);
            html.AppendEncoded(side.Title);
            html.Append("</h2>\n"u8);
            if (side.HasFailed) html.Append("<p class=\"none\">This cannot be counted just now.</p>\n"u8);
            else if (side.Entries.Count == 0) html.Append("<p class=\"none\">nothing</p>\n"u8);
            else WriteEntries(view, side, html);
            html.Append("</nav>\n"u8);
        }

        html.Append("</div>\n</div>\n"u8);
    }

    private static void WriteEntries(ListView view, SideView side, Utf8Buffer html)
    {
        html.Append("<ul>\n"u8);
        if (side.All is { } all) WriteEntry(all.Text, all.Address, null, !side.Entries.Any(entry => entry.IsCurrent) && all.Page == view.Page, html);
        foreach (var entry in side.Entries) WriteEntry(entry.Text, entry.Address, ValueFormat.Count(entry.Count, view.Frame.Conventions), entry.IsCurrent, html);
        html.Append("</ul>\n"u8);
        if (!side.IsWhole) html.Append("<p class=\"none\">There are more values than can be listed.</p>\n"u8);
        if (!side.IsExact) html.Append("<p class=\"none\">Counted within the last minute.</p>\n"u8);
    }

    private static void WriteEntry(string text, string? address, string? count, bool current, Utf8Buffer html)
    {
        html.Append("<li>"u8);
        if (address is not null)
        {
            html.Append(current ? "<a aria-current=\"true\" href=\""u8 : "<a href=\""u8);
            html.AppendEncoded(address);
            html.Append("\">"u8);
        }

        html.AppendEncoded(text);
        if (address is not null) html.Append("</a>"u8);
        if (count is not null)
        {
            html.Append(" <span class=\"count\">"u8);
            html.AppendEncoded(count);
            html.Append("</span>"u8);
        }

        html.Append("</li>\n"u8);
    }

    private static void WriteTurns(ListView view, Utf8Buffer html)
    {
        if (view.CannotGoOn)
            html.Append("<p class=\"none-yet\">The list goes on, but its next part has no address: a value it is ordered by is too long.</p>\n"u8);
        var windows = view.Windows;
        if (windows is { First: null, Next: null, Last: null }) return;
        html.Append("<nav class=\"turns\" aria-label=\"Parts of the list\">\n"u8);
        WriteTurn(windows.First, "first"u8, "First"u8, html);
        WriteTurn(windows.Previous, "prev"u8, "Previous"u8, html);
        WriteTurn(windows.Next, "next"u8, "Next"u8, html);
        WriteTurn(windows.Last, "last"u8, "Last"u8, html);
        html.Append("</nav>\n"u8);
    }

    /// <param name="relation">The registered link relation, which also is the class.</param>
    private static void WriteTurn(string? address, ReadOnlySpan<byte> relation, ReadOnlySpan<byte> text, Utf8Buffer html)
    {
        if (address is null) return;
        html.Append("<a class=\""u8);
        html.Append(relation);
        html.Append("\" rel=\""u8);
        html.Append(relation);
        html.Append("\" href=\""u8);
        html.AppendEncoded(address);
        html.Append("\">"u8);
        html.Append(text);
        html.Append("</a>\n"u8);
    }

    /// <summary>“1,204 bridges”, and in a list of several windows “51 to 100 of 1,204 bridges”.</summary>
    private static string TotalText(ListView view)
    {
        var total = view.Total;
        var conventions = view.Frame.Conventions;
        var noun = total is { Count: 1, IsExact: true } ? view.Shape.One : view.Shape.Many;
        var all = $"{(total.IsExact ? "" : "more than ")}{ValueFormat.Count(total.Count, conventions)} {noun}";
        return view.From is not { } from || view.Windows is { First: null, Next: null } ? all
            : $"{ValueFormat.Count(from, conventions)} to {ValueFormat.Count(from + view.Rows.Count - 1, conventions)} of {all}";
    }
}
