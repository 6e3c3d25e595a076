using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the lists of an app: a search by name, and each group with its lists and their counts.</summary>
internal static class HtmlListIndex
{
    public static void Write(ListIndexView view, PageFrame frame, Utf8Buffer html)
    {
        html.Append("<form class=\"ask\" method=\"get\" role=\"search\" action=\""u8);
        html.AppendEncoded(view.Action);
        html.Append(
            "\">\n<label class=\"find\"><span>Find a list</span> <input type=\"search\" name=\"find\" "u8
                + "maxlength=\"200\" value=\""u8
        );
        html.AppendEncoded(view.Find);
        html.Append("\"></label>\n<button type=\"submit\">Show</button>\n</form>\n"u8);
        if (view.Groups.Count == 0)
        {
            html.Append("<p class=\"none-yet\" role=\"status\">"u8);
            html.AppendEncoded($"No list is called “{view.Find}”.");
            html.Append("</p>\n"u8);
        }

        foreach (var group in view.Groups)
        {
            html.Append("<section class=\"lists\">\n"u8);
            if (group.Title.Length > 0)
            {
                html.Append("<h2>"u8);
                html.AppendEncoded(group.Title);
                html.Append("</h2>\n"u8);
            }

            html.Append("<ul>\n"u8);
            foreach (var list in group.Lists)
                WriteList(list, frame, html);
            html.Append("</ul>\n</section>\n"u8);
        }
    }

    private static void WriteList(ListEntry list, PageFrame frame, Utf8Buffer html)
    {
        html.Append("<li>"u8);
        HtmlFrame.WriteLink(list.Link, html);
        if (list.Total is { } total)
        {
            html.Append(" <span class=\"count\">"u8);
            html.AppendEncoded(HtmlText.Counted(total, frame.Conventions));
            html.Append("</span>"u8);
        }

        html.Append("</li>\n"u8);
    }
}
