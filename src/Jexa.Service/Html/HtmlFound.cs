using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes a search across lists: its box, and a block for each list in which something was found.</summary>
internal static class HtmlFound
{
    public static void Write(FoundView found, PageView view, HtmlRowWriter rows, Utf8Buffer html, Utf8Buffer scratch)
    {
        html.Append("<form class=\"ask\" method=\"get\" role=\"search\" action=\""u8);
        html.AppendEncoded(found.Action);
        html.Append(
            "\">\n<label class=\"find\"><span>Find</span> <input type=\"search\" name=\"find\" maxlength=\"200\" value=\""u8
        );
        html.AppendEncoded(found.Find);
        html.Append("\"></label>\n<button type=\"submit\">Find</button>\n</form>\n"u8);
        if (found.Find.Length > 0 && found.Lists.Count == 0)
        {
            html.Append("<p class=\"none-yet\" role=\"status\">"u8);
            html.AppendEncoded(found.Fault ?? $"Nothing was found for “{found.Find}”.");
            html.Append("</p>\n"u8);
        }

        for (var i = 0; i < found.Lists.Count; i++)
            Write(found.Lists[i], i, view, rows, html, scratch);
    }

    private static void Write(FoundList list, int number, PageView view, HtmlRowWriter rows, Utf8Buffer html, Utf8Buffer scratch)
    {
        html.Append($"<section class=\"block\" aria-labelledby=\"found-{number}\">\n<h2 id=\"found-{number}\">");
        html.AppendEncoded(list.All.Text);
        if (list.Total is { } total)
        {
            html.Append(" <span class=\"count\">"u8);
            html.AppendEncoded(HtmlText.Counted(total, view.Frame.Conventions));
            html.Append("</span>"u8);
        }

        html.Append("</h2>\n"u8);
        if (list.Rows is null)
            html.Append("<p class=\"none\">This list cannot be searched just now.</p>\n"u8);
        else
            rows.Write(list.Shape, list.Rows, view, "", html, scratch);
        if (list.Rows is { } shown && (list.Total is not { } all || all.Count > shown.Count))
        {
            html.Append("<p class=\"more\">"u8);
            HtmlFrame.WriteLink(
                list.All with
                {
                    Text = list.Total is { } some
                        ? $"All {HtmlText.Counted(some, view.Frame.Conventions)} {list.Shape.Many}"
                        : $"All {list.Shape.Many}",
                },
                html
            );
            html.Append("</p>\n"u8);
        }

        html.Append("</section>\n"u8);
    }
}
