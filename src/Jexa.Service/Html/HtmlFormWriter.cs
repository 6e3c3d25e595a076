using Jexa.Core.Edits;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>
/// Writes a form: a label and an input for each field; faults beside the field and in a summary above. Works without scripts.
/// </summary>
internal static class HtmlFormWriter
{
    public static void Write(FormView view, Utf8Buffer html)
    {
        HtmlFrame.WriteTrail(view.Trail, view.Back, html);
        html.Append("<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n"u8);
        if (view.Notice is { } notice)
            Notice(notice, html);
        if (view.Faults.Count > 0)
            Summary(view, html);
        Form(view, html);
        HtmlFrame.WriteLinks(view.Links, html);
        Scripts(view, html);
    }

    /// <summary>What helps with the form.</summary>
    public static void Scripts(FormView view, Utf8Buffer html)
    {
        Script(view.Frame, "form.js", html);
        if (HasFiles(view))
            Script(view.Frame, "upload.js", html);
    }

    /// <summary>The form with all its fields.</summary>
    public static void Form(FormView view, Utf8Buffer html)
    {
        html.Append("<form class=\"fill\""u8);
        Begin(view, html);
        foreach (var input in view.Inputs)
            Field(view, input, html);
        html.Append("<p class=\"do\"><button type=\"submit\" class=\"main\">"u8);
        html.AppendEncoded(view.Submit);
        html.Append("</button>"u8);
        Leave(view.Cancel, html);
        html.Append("</p>\n"u8);
        End(html);
    }

    /// <summary>Where a form leads and what it carries, after the beginning of its tag.</summary>
    public static void Begin(FormView view, Utf8Buffer html)
    {
        html.Append(" method=\"post\" action=\""u8);
        html.AppendEncoded(view.Action);
        if (HasFiles(view))
            html.Append("\" enctype=\"multipart/form-data"u8);
        // A script warns about unsaved changes. A form that came back unsaved has one from the start.
        html.Append(view.Status >= 400 ? "\" data-fill data-unsaved>\n"u8 : "\" data-fill>\n"u8);
        Hidden(SentForm.Contract, view.Contract, html);

        // Enter presses the first button.
        html.Append("<button type=\"submit\" class=\"unseen\" tabindex=\"-1\" aria-hidden=\"true\">"u8);
        html.AppendEncoded(view.Submit);
        html.Append("</button>\n"u8);
    }

    private static bool HasFiles(FormView view) => view.Inputs.Any(input => input.Field.Upload is not null);

    public static void End(Utf8Buffer html)
    {
        Hidden(SentForm.End, "1", html);
        html.Append("</form>\n"u8);
    }

    public static void Notice(string text, Utf8Buffer html)
    {
        html.Append("<p class=\"notice\" role=\"alert\">"u8);
        html.AppendEncoded(text);
        html.Append("</p>\n"u8);
    }

    public static void Hidden(string name, string value, Utf8Buffer html)
    {
        html.Append($"<input type=\"hidden\" name=\"{name}\" value=\"");
        html.AppendEncoded(value);
        html.Append("\">\n"u8);
    }

    /// <summary>A hidden field whose name comes from the app.</summary>
    public static void HiddenNamed(string name, string value, Utf8Buffer html)
    {
        html.Append("<input type=\"hidden\" name=\""u8);
        html.AppendEncoded(name);
        html.Append("\" value=\""u8);
        html.AppendEncoded(value);
        html.Append("\">\n"u8);
    }

    /// <summary>The link that leaves without saving.</summary>
    public static void Leave(PlainLink? cancel, Utf8Buffer html)
    {
        if (cancel is null)
            return;
        html.Append(" <a class=\"leave\" href=\""u8);
        html.AppendEncoded(cancel.Address);
        html.Append("\">"u8);
        html.AppendEncoded(cancel.Text);
        html.Append("</a>"u8);
    }

    public static void Script(PageFrame frame, string name, Utf8Buffer html)
    {
        html.Append("<script src=\""u8);
        html.AppendEncoded($"{frame.Mount}/_jexa/{name}");
        html.Append("\" defer></script>\n"u8);
    }

    public static void Summary(FormView view, Utf8Buffer html)
    {
        html.Append("<div class=\"faults\" role=\"alert\" aria-labelledby=\"faults\" tabindex=\"-1\">\n<h2 id=\"faults\">"u8);
        html.AppendEncoded(
            view.Faults.Count == 1
                ? "This was not saved: one thing is to be mended"
                : $"This was not saved: {view.Faults.Count} things are to be mended"
        );
        html.Append("</h2>\n<ul>\n"u8);
        foreach (var fault in view.Faults)
        {
            html.Append("<li>"u8);
            if (fault.Field is { } field)
            {
                html.Append("<a href=\"#"u8);
                html.AppendEncoded(field.Id);
                html.Append("\">"u8);
                html.AppendEncoded(field.Field.Label);
                html.Append("</a>: "u8);
            }

            html.AppendEncoded(fault.Text);
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n</div>\n"u8);
    }

    public static void Field(FormView view, FormInput input, Utf8Buffer html)
    {
        html.Append(
            input.Faults.Count > 0 ? "<div class=\"field wrong\">\n"u8
            : input.Clash is not null ? "<div class=\"field other\">\n"u8
            : "<div class=\"field\">\n"u8
        );
        if (input.Clash is { } clash)
            Clash(clash, html);
        if (view.Undecided.TryGetValue(input.Name, out var chosen))
            Choice(input, chosen, html);
        if (input.Fixed is { } decided)
            Decided(input, decided, html);
        else
            Control(input, html);
        html.Append("</div>\n"u8);
    }

    /// <summary>A value that the address decides.</summary>
    public static void Decided(FormInput input, string decided, Utf8Buffer html)
    {
        html.Append("<span class=\"label\">"u8);
        html.AppendEncoded(input.Field.Label);
        html.Append("</span>\n<span class=\"decided\">"u8);
        html.AppendEncoded(decided);
        html.Append("</span>\n"u8);
        Hidden(input.Name, input.Text, html);
    }

    /// <summary>The label and the control of an input, and what belongs to them.</summary>
    private static void Control(FormInput input, Utf8Buffer html)
    {
        var field = input.Field;
        if (field is { Input: InputKind.Boolean, Column.Nullable: false } && input.Options.Count == 0)
        {
            HtmlControls.Box(input, html);
        }
        else
        {
            html.Append("<label for=\""u8);
            html.AppendEncoded(input.Id);
            html.Append("\">"u8);
            html.AppendEncoded(field.Label);
            if (!field.Rules.Required)
                html.Append(" <span class=\"optional\">(may be empty)</span>"u8);
            html.Append("</label>\n"u8);
            HtmlControls.Beside(input, html);
            if (input.Field.Upload is not null)
                HtmlFileControl.Write(input, html);
            else if (input.Options.Count > 0 || input.Search is not null)
                HtmlControls.Select(input, html);
            else if (input.IsMultiline)
                HtmlControls.Area(input, html);
            else
                HtmlControls.Line(input, html);
        }

        if (input.Search is { } search)
            HtmlControls.Search(input, search, html);
        if (input.Picture is not { } picture || field.Upload is not null || field.Input != InputKind.Picture)
            return;
        html.Append("<img class=\"picture\" alt=\""u8);
        html.AppendEncoded($"{field.Label} as it is saved");
        html.Append("\" src=\""u8);
        html.AppendEncoded(picture);
        html.Append("\">\n"u8);
    }

    /// <summary>What somebody else did to the field meanwhile.</summary>
    public static void Clash(FormClash clash, Utf8Buffer html)
    {
        html.Append("<dl class=\"clash\">\n"u8);
        Term("It was", clash.Was, html);
        Term("Somebody else wrote", clash.Theirs, html);
        if (clash.Mine is { } mine)
            Term("You wrote", mine, html);
        html.Append("</dl>\n"u8);
        if (clash.Mine is null)
            html.Append("<p class=\"hint\">You left this field alone: it keeps what the other one wrote.</p>\n"u8);
    }

    public static void Choice(FormInput input, string? chosen, Utf8Buffer html)
    {
        html.Append("<fieldset class=\"choose\"><legend>"u8);
        html.AppendEncoded($"{input.Field.Label}: which value is to stay?");
        html.Append("</legend>\n"u8);
        foreach (var (value, text) in new[] { ("theirs", "The other one’s"), ("mine", "Mine, as it stands below") })
        {
            html.Append("<label class=\"box\"><input type=\"radio\" required name=\""u8);
            html.AppendEncoded(SentForm.Choose + input.Name);
            html.Append($"\" value=\"{value}\"{(chosen == value ? " checked" : "")}> ");
            html.AppendEncoded(text);
            html.Append("</label>\n"u8);
        }

        html.Append("</fieldset>\n"u8);
    }

    private static void Term(string term, string text, Utf8Buffer html)
    {
        html.Append("<div><dt>"u8);
        html.AppendEncoded(term);
        html.Append("</dt><dd>"u8);
        if (text.Length == 0)
            html.Append("<span class=\"none\">nothing</span>"u8);
        else
            html.AppendEncoded(text);
        html.Append("</dd></div>\n"u8);
    }
}
