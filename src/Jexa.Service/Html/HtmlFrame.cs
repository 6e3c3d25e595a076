using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes what leads away from a page: the menu, the trail of records above, lists of links.</summary>
internal static class HtmlFrame
{
    public static void WriteMenu(FrameParts frame, string? page, Utf8Buffer html)
    {
        if (frame.Menu.Count == 0) return;
        html.Append("<nav aria-label=\"Pages\">\n<ul>\n"u8);
        foreach (var (name, open, close) in frame.Menu)
        {
            html.Append(open);
            if (name == page) html.Append(" aria-current=\"page\""u8);
            html.Append(close);
        }

        html.Append("</ul>\n</nav>\n"u8);
    }

    /// <summary>The way back to a list, and the records above.</summary>
    public static void WriteTrail(IReadOnlyList<PlainLink> trail, PlainLink? back, Utf8Buffer html)
    {
        if (back is not null && trail.All(link => link.Address != back.Address))
        {
            html.Append("<p class=\"back\">"u8);
            WriteLink(back, default, html);
            html.Append("</p>\n"u8);
        }

        if (trail.Count == 0) return;
        html.Append("<nav class=\"trail\" aria-label=\"Where this belongs\">\n<ol>\n"u8);
        foreach (var link in trail)
        {
            html.Append("<li>"u8);
            WriteLink(link, default, html);
            html.Append("</li>\n"u8);
        }

        html.Append("</ol>\n</nav>\n"u8);
    }

    public static void WriteLinks(IReadOnlyList<PlainLink> links, Utf8Buffer html)
    {
        if (links.Count == 0) return;
        html.Append("<ul class=\"links\">\n"u8);
        foreach (var link in links)
        {
            html.Append("<li>"u8);
            WriteLink(link, default, html);
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }

    /// <summary>A link; its text alone where it leads nowhere.</summary>
    /// <param name="attributes">Further attributes, with a blank before them.</param>
    public static void WriteLink(PlainLink link, ReadOnlySpan<byte> attributes, Utf8Buffer html)
    {
        if (link.Address.Length == 0)
        {
            html.AppendEncoded(link.Text);
            return;
        }

        html.Append("<a"u8);
        html.Append(attributes);
        html.Append(" href=\""u8);
        html.AppendEncoded(link.Address);
        html.Append("\">"u8);
        html.AppendEncoded(link.Text);
        html.Append("</a>"u8);
    }
}
