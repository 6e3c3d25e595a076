using Jexa.Core.Edits;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the page that asks for confirmation before a record is deleted.</summary>
internal sealed class HtmlDeleteWriter(HtmlDetailWriter details)
{
    public void Write(DeleteView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        HtmlFrame.WriteTrail(view.Trail, view.Shape.Back, html);
        html.Append("<h1>"u8);
        scratch.Truncate(0);
        view.Shape.Title.Write(view.Record, scratch);
        html.AppendEncoded(scratch.Written);
        html.Append("</h1>\n"u8);
        if (view.Notice is { } notice)
            HtmlFormWriter.Notice(notice, html);
        WriteQuestion(view, html);
        details.WriteFields(view, view.Shape, view.Record, html, scratch);
        HtmlFormWriter.Script(view.Frame, "form.js", html);
    }

    /// <summary>What refers to the record, and the button that deletes it.</summary>
    public static void WriteQuestion(DeleteView view, Utf8Buffer html)
    {
        WriteDependents(view, html);
        if (view.IsPossible)
            WriteForm(view, html);
        else if (view.Cancel is not null)
            HtmlFrame.WriteLinks([view.Cancel], html);
    }

    private static void WriteForm(DeleteView view, Utf8Buffer html)
    {
        html.Append("<form class=\"fill\" method=\"post\" action=\""u8);
        html.AppendEncoded(view.Action);
        html.Append("\">\n"u8);
        HtmlFormWriter.Hidden(SentForm.Contract, view.Contract, html);
        HtmlFormWriter.Hidden(SentForm.End, "1", html);
        html.Append("<p class=\"do\"><button type=\"submit\" class=\"main grave\">"u8);
        html.AppendEncoded($"Delete this {view.Shape.One}");
        html.Append("</button>"u8);
        HtmlFormWriter.Leave(view.Cancel, html);
        html.Append("</p>\n</form>\n"u8);
    }

    private static void WriteDependents(DeleteView view, Utf8Buffer html)
    {
        if (view.Dependents.Count == 0)
        {
            html.Append("<p>"u8);
            html.AppendEncoded(
                $"No other record refers to this {view.Shape.One}. Once it is deleted, its address says that it is gone."
            );
            html.Append("</p>\n"u8);
            return;
        }

        html.Append("<p>"u8);
        html.AppendEncoded($"Other records refer to this {view.Shape.One}:");
        html.Append("</p>\n<ul class=\"hang\">\n"u8);
        foreach (var dependents in view.Dependents)
        {
            html.Append("<li>"u8);
            var count = HtmlText.Counted(dependents.Total, view.Frame.Conventions);
            html.AppendEncoded(
                $"{count} {dependents.What}: "
                    + dependents.Rule switch
                    {
                        DeleteRule.Cascade => dependents.Total.Count == 1 ? "it is deleted as well" : "they are deleted as well",
                        DeleteRule.Release => dependents.Total.Count == 1
                            ? "it stays, and refers to nothing any more"
                            : "they stay, and refer to nothing any more",
                        _ => dependents.Total.Count == 1
                            ? "as long as it is there, this cannot be deleted"
                            : "as long as they are there, this cannot be deleted",
                    }
            );
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }
}
