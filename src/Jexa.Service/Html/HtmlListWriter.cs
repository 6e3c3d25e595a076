using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes a list: its heading, controls, rows, side lists, and links to other windows.</summary>
internal sealed class HtmlListWriter(HtmlParts allParts, HtmlRowWriter rows)
{
    public void Write(ListView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        HtmlFrame.WriteTrail(view.Trail, null, html);
        html.Append("<div class=\"lead\">\n<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n<p class=\"total\">"u8);
        html.AppendEncoded(TotalText(view));
        html.Append("</p>\n"u8);
        if (view.Add is { } add)
        {
            html.Append("<p class=\"add\">"u8);
            HtmlFrame.WriteLink(add, html);
            html.Append("</p>\n"u8);
        }

        html.Append("</div>\n"u8);
        if (view.Notice is { } notice)
            WriteNotice(notice, html);
        if (view.Sides.Count > 0)
            html.Append("<div class=\"sided\">\n<div class=\"middle\">\n"u8);
        WriteControls(view, html);
        if (view.Rows.Count == 0)
            WriteNoRows(view, html);
        else
            rows.Write(view.Shape, view.Rows, view, view.FromMark, html, scratch);
        WriteTurns(view, html);
        if (view.Sides.Count == 0)
            return;
        html.Append("</div>\n"u8);
        HtmlSides.Write(view, html);
        html.Append("</div>\n"u8);
    }

    /// <summary>The list beside a record: the names of its records, with the current one marked.</summary>
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
            var linked =
                view.Shape.RecordLink is { } link
                && values.TryOpen(link, row, false, i == view.CurrentRow ? " aria-current=\"true\""u8 : default);
            if (
                parts.Columns.Length > 0
                && parts.Columns[parts.Main] is { Picture: null, Reference: null } main
                && !main.IsEmpty(row)
            )
                values.Write(main with { Link = null }, row, null, false, default);
            else
                values.WriteText(view.Shape.Title, row);
            if (linked)
                html.Append("</a>"u8);
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n</nav>\n"u8);
    }

    public static void WriteNotice(string notice, Utf8Buffer html)
    {
        html.Append("<p class=\"notice\" role=\"status\">"u8);
        html.AppendEncoded(notice);
        html.Append("</p>\n"u8);
    }

    public static void WriteNoRows(ListView view, Utf8Buffer html)
    {
        html.Append("<p class=\"none-yet\">"u8);
        var many = view.Shape.Many;
        html.AppendEncoded(
            view.Windows.First is not null ? $"No more {many} come after this place."
            : view.Controls.IsNarrowed ? $"No {many} are like that."
            : view.Controls.Kept.Count > 0 || view.Trail.Count > 0 ? $"There are no {many} here."
            : $"There are no {many} yet."
        );
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

    public void WriteControls(ListView view, Utf8Buffer html)
    {
        var few = view.Windows is { First: null, Next: null } && view.Rows.Count <= view.Controls.Sizes[0];
        if (view.Controls.Find is not null || !few)
            allParts.Write(view.Controls, isHead: false, html, into => HtmlListForm.Write(view, into));
    }

    public static void WriteTurns(ListView view, Utf8Buffer html)
    {
        if (view.CannotGoOn)
            html.Append(
                "<p class=\"none-yet\">The list goes on, but its next part has no address: a value it is "u8
                    + "ordered by is too long.</p>\n"u8
            );
        var windows = view.Windows;
        if (windows is { First: null, Next: null, Last: null })
            return;
        html.Append("<nav class=\"turns\" aria-label=\"Parts of the list\">\n"u8);
        HtmlFrame.WriteTurn(windows.First, "first"u8, default, "First", html);
        HtmlFrame.WriteTurn(windows.Previous, "prev"u8, default, "Previous", html);
        HtmlFrame.WriteTurn(windows.Next, "next"u8, default, "Next", html);
        HtmlFrame.WriteTurn(windows.Last, "last"u8, default, "Last", html);
        html.Append("</nav>\n"u8);
    }

    /// <summary>“1,204 bridges”, and in a list of several windows “51 to 100 of 1,204 bridges”.</summary>
    public static string TotalText(ListView view)
    {
        var total = view.Total;
        var conventions = view.Frame.Conventions;
        var noun = total is { Count: 1, IsExact: true } ? view.Shape.One : view.Shape.Many;
        var all = $"{HtmlText.Counted(total, conventions)} {noun}";
        return view.From is not { } from || view.Windows is { First: null, Next: null }
            ? all
            : $"{ValueFormat.Count(from, conventions)} to {ValueFormat.Count(from + view.Rows.Count - 1, conventions)} of {all}";
    }
}
