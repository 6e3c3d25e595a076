using Jexa.Core.Bodies;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Service.Media;
using Jexa.Service.Uploads;

namespace Jexa.Service.Html;

/// <summary>
/// Writes the control for a field with a file: what is there now, the input for another one, and a box to have none. What the
/// field holds now goes along as a hidden input.
/// </summary>
internal static class HtmlFileControl
{
    public static void Write(FormInput input, Utf8Buffer html, BodyStep.Control? design = null)
    {
        var plan = input.Field.Upload!;
        var file = input.Text.Length > 0 ? FolderFiles.Find(plan.Folder, input.Text) : null;
        if (input.Text.Length > 0)
            Present(input, plan, file, html);
        html.Append("<input type=\"file\""u8);
        HtmlControls.Common(input, SentForm.File + input.Name, html, design, isRequired: input.Text.Length == 0);
        HtmlControls.Attribute("accept", plan.Kinds.Count > 0 ? UploadKinds.Accepted(plan) : null, html);
        html.Append($" data-most=\"{plan.MostBytes}\" data-most-text=\"{FileFacts.Size(plan.MostBytes)}\"");
        if (plan.Several)
            html.Append(" data-several"u8);
        html.Append(">\n"u8);
        HtmlFormWriter.HiddenNamed(input.Name, input.Text, html);
        if (input.Text.Length == 0 || input.Field.Rules.Required)
            return;
        html.Append("<label class=\"box drop\"><input type=\"checkbox\" value=\"1\" name=\""u8);
        html.AppendEncoded(SentForm.Drop + input.Name);
        html.Append("\"> "u8);
        html.AppendEncoded(plan.Form == FieldForm.Picture ? "No picture" : "No file");
        html.Append("</label>\n"u8);
    }

    /// <summary>The kinds and the size that are taken.</summary>
    public static string Hint(UploadPlan plan) =>
        (plan.Kinds.Count > 0 ? $"{UploadKinds.Said(plan)}, up to " : "Up to ") + $"{FileFacts.Size(plan.MostBytes)}.";

    private static void Present(FormInput input, UploadPlan plan, string? file, Utf8Buffer html)
    {
        if (file is not null && input.Picture is { } picture && IncomingFiles.Find(plan.Folder, input.Text) is null)
        {
            html.Append("<img class=\"picture\" alt=\""u8);
            html.AppendEncoded($"{input.Field.Label} as it is saved");
            html.Append("\" src=\""u8);
            html.AppendEncoded(picture);
            html.Append("\">\n"u8);
            return;
        }

        html.Append("<p class=\"held\">"u8);
        if (file is null)
        {
            html.AppendEncoded(FolderFiles.ShownName(input.Text));
            html.Append(" <span class=\"none\">is missing</span>"u8);
        }
        else
        {
            var facts = FileFacts.Of(file);
            html.AppendEncoded(facts is { Kind.Name.Length: > 0 } ? facts.Kind.Name : FolderFiles.ShownName(input.Text));
            html.AppendEncoded(facts is null ? "" : $", {FileFacts.Size(facts.Length)}");
            if (IncomingFiles.Find(plan.Folder, input.Text) is not null)
                html.Append(" is chosen already"u8);
        }

        html.Append("</p>\n"u8);
    }
}
