using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the side lists of a list.</summary>
internal static class HtmlSides
{
    public static void Write(ListView view, Utf8Buffer html)
    {
        html.Append("<div class=\"sides\">\n"u8);
        foreach (var side in view.Sides)
        {
            html.Append("<nav class=\"side\" aria-label=\""u8);
            html.AppendEncoded(side.Title);
            html.Append("\">\n<h2>"u8);
            html.AppendEncoded(side.Title);
            html.Append("</h2>\n"u8);
            if (side.IsBeingCounted)
                html.Append("<p class=\"none\">This is being counted: load the page again to see it.</p>\n"u8);
            else if (side.HasFailed)
                html.Append("<p class=\"none\">This cannot be counted just now.</p>\n"u8);
            else if (side.Entries.Count == 0)
                html.Append("<p class=\"none\">nothing</p>\n"u8);
            else
                WriteEntries(view, side, html);
            html.Append("</nav>\n"u8);
        }

        html.Append("</div>\n"u8);
    }

    private static void WriteEntries(ListView view, SideView side, Utf8Buffer html)
    {
        html.Append("<ul>\n"u8);
        if (side.All is { } all)
            WriteEntry(all.Text, all.Address, null, !side.Entries.Any(entry => entry.IsCurrent) && all.Page == view.Page, html);
        foreach (var entry in side.Entries)
            WriteEntry(entry.Text, entry.Address, ValueFormat.Count(entry.Count, view.Frame.Conventions), entry.IsCurrent, html);
        html.Append("</ul>\n"u8);
        if (!side.IsWhole)
            html.Append("<p class=\"none\">There are more values than can be listed.</p>\n"u8);
        if (!side.IsExact)
            html.Append("<p class=\"none\">Counted within the last minute.</p>\n"u8);
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
        if (address is not null)
            html.Append("</a>"u8);
        if (count is not null)
        {
            html.Append(" <span class=\"count\">"u8);
            html.AppendEncoded(count);
            html.Append("</span>"u8);
        }

        html.Append("</li>\n"u8);
    }
}
