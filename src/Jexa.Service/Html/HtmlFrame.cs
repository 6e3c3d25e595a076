using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the links away from a page: the menu, the trail of records above, lists of links.</summary>
internal static class HtmlFrame
{
    public static void WriteMenu(FrameParts frame, string? page, Utf8Buffer html)
    {
        if (frame.Menu.Count == 0)
            return;
        var isLong = frame.Menu.Count > MostInMenu + 1;
        html.Append("<nav aria-label=\"Pages\">\n<ul>\n"u8);
        WriteMenu(frame, page, 0, isLong ? MostInMenu : frame.Menu.Count, html);
        if (isLong)
        {
            html.Append("<li class=\"rest\"><details><summary>More</summary>\n<ul>\n"u8);
            WriteMenu(frame, page, MostInMenu, frame.Menu.Count, html);
            html.Append("</ul>\n</details></li>\n"u8);
        }

        html.Append("</ul>\n</nav>\n"u8);
    }

    /// <summary>The most entries of the menu that are seen at once.</summary>
    private const int MostInMenu = 11;

    private static void WriteMenu(FrameParts frame, string? page, int from, int to, Utf8Buffer html)
    {
        for (var i = from; i < to; i++)
        {
            var (name, open, close) = frame.Menu[i];
            html.Append(open);
            if (name == page)
                html.Append(" aria-current=\"page\""u8);
            html.Append(close);
        }
    }

    /// <summary>A part of the app's own frame.</summary>
    public static void Write(IReadOnlyList<FramePiece> pieces, string? page, Utf8Buffer html)
    {
        for (var i = 0; i < pieces.Count; i++)
        {
            html.Append(pieces[i].Html);
            if (pieces[i].Page is { } one && one == page)
                html.Append(" aria-current=\"page\""u8);
        }
    }

    /// <summary>The way back to a list, and the records above.</summary>
    public static void WriteTrail(IReadOnlyList<PlainLink> trail, PlainLink? back, Utf8Buffer html)
    {
        if (back is not null && !LeadsTo(trail, back.Address))
        {
            html.Append("<p class=\"back\">"u8);
            WriteLink(back, html);
            html.Append("</p>\n"u8);
        }

        if (trail.Count == 0)
            return;
        html.Append("<nav class=\"trail\" aria-label=\"Where this belongs\">\n<ol>\n"u8);
        WriteItems(trail, html);
        html.Append("</ol>\n</nav>\n"u8);
    }

    private static bool LeadsTo(IReadOnlyList<PlainLink> links, string address)
    {
        for (var i = 0; i < links.Count; i++)
            if (links[i].Address == address)
                return true;
        return false;
    }

    public static void WriteLinks(IReadOnlyList<PlainLink> links, Utf8Buffer html)
    {
        if (links.Count == 0)
            return;
        html.Append("<ul class=\"links\">\n"u8);
        WriteItems(links, html);
        html.Append("</ul>\n"u8);
    }

    private static void WriteItems(IReadOnlyList<PlainLink> links, Utf8Buffer html)
    {
        foreach (var link in links)
        {
            html.Append("<li>"u8);
            WriteLink(link, html);
            html.Append("</li>\n"u8);
        }
    }

    /// <summary>A link, or its text alone if it leads nowhere.</summary>
    public static void WriteLink(PlainLink link, Utf8Buffer html)
    {
        if (link.Address.Length == 0)
        {
            html.AppendEncoded(link.Text);
            return;
        }

        html.Append("<a href=\""u8);
        html.AppendEncoded(link.Address);
        html.Append("\">"u8);
        html.AppendEncoded(link.Text);
        html.Append("</a>"u8);
    }

    /// <summary>The link to a neighbouring page.</summary>
    /// <param name="relation">The registered link relation, which is also the class.</param>
    /// <param name="unseen">Text before the link for screen readers; empty for none.</param>
    public static void WriteTurn(
        string? address,
        ReadOnlySpan<byte> relation,
        ReadOnlySpan<byte> unseen,
        string text,
        Utf8Buffer html
    )
    {
        if (address is null)
            return;
        html.Append("<a class=\""u8);
        html.Append(relation);
        html.Append("\" rel=\""u8);
        html.Append(relation);
        html.Append("\" href=\""u8);
        html.AppendEncoded(address);
        html.Append("\">"u8);
        if (!unseen.IsEmpty)
        {
            html.Append("<span class=\"unseen\">"u8);
            html.Append(unseen);
            html.Append("</span>"u8);
        }

        html.AppendEncoded(text);
        html.Append("</a>\n"u8);
    }
}
