using System.Globalization;
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
        html.Append("<form class=\"fill\" method=\"post\" action=\""u8);
        html.AppendEncoded(view.Action);
        // A script warns about unsaved changes. A form that came back unsaved has one from the start.
        html.Append(view.Status >= 400 ? "\" data-unsaved>\n"u8 : "\">\n"u8);
        Hidden(SentForm.Contract, view.Contract, html);

        // Enter presses the first button.
        html.Append("<button type=\"submit\" class=\"unseen\" tabindex=\"-1\" aria-hidden=\"true\">"u8);
        html.AppendEncoded(view.Submit);
        html.Append("</button>\n"u8);
        foreach (var input in view.Inputs)
            Field(view, input, html);
        html.Append("<p class=\"do\"><button type=\"submit\" class=\"main\">"u8);
        html.AppendEncoded(view.Submit);
        html.Append("</button>"u8);
        Leave(view.Cancel, html);
        html.Append("</p>\n"u8);
        Hidden(SentForm.End, "1", html);
        html.Append("</form>\n"u8);
        HtmlFrame.WriteLinks(view.Links, html);
        Script(view.Frame, html);
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

    public static void Script(PageFrame frame, Utf8Buffer html)
    {
        html.Append("<script src=\""u8);
        html.AppendEncoded($"{frame.Mount}/_jexa/form.js");
        html.Append("\" defer></script>\n"u8);
    }

    private static void Summary(FormView view, Utf8Buffer html)
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
                html.AppendEncoded(Id(field));
                html.Append("\">"u8);
                html.AppendEncoded(field.Field.Label);
                html.Append("</a>: "u8);
            }

            html.AppendEncoded(fault.Text);
            html.Append("</li>\n"u8);
        }

        html.Append("</ul>\n</div>\n"u8);
    }

    /// <summary>Points in an element's ID would have to be escaped in style sheets.</summary>
    private static string Id(FormInput input) => $"f-{input.Name.Replace(SentForm.Tied, "-record-", StringComparison.Ordinal)}";

    private static void Field(FormView view, FormInput input, Utf8Buffer html)
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
    private static void Decided(FormInput input, string decided, Utf8Buffer html)
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
            Box(input, html);
        }
        else
        {
            html.Append("<label for=\""u8);
            html.AppendEncoded(Id(input));
            html.Append("\">"u8);
            html.AppendEncoded(field.Label);
            if (!field.Rules.Required)
                html.Append(" <span class=\"optional\">(may be empty)</span>"u8);
            html.Append("</label>\n"u8);
            Beside(input, html);
            if (input.Options.Count > 0 || input.Search is not null)
                Select(input, html);
            else if (input.IsMultiline)
                Area(input, html);
            else
                Line(input, html);
        }

        if (input.Search is { } search)
            Search(input, search, html);
        if (input.Picture is not { } picture)
            return;
        html.Append("<img class=\"picture\" alt=\""u8);
        html.AppendEncoded($"{field.Label} as it is saved");
        html.Append("\" src=\""u8);
        html.AppendEncoded(picture);
        html.Append("\">\n"u8);
    }

    /// <summary>The help for the field, and its faults.</summary>
    private static void Beside(FormInput input, Utf8Buffer html)
    {
        if (Hint(input) is { } hint)
        {
            html.Append("<p class=\"hint\" id=\""u8);
            html.AppendEncoded($"{Id(input)}-hint");
            html.Append("\">"u8);
            html.AppendEncoded(hint);
            html.Append("</p>\n"u8);
        }

        if (input.Faults.Count == 0)
            return;
        html.Append("<p class=\"fault\" id=\""u8);
        html.AppendEncoded($"{Id(input)}-fault");
        html.Append("\">"u8);
        html.AppendEncoded(string.Join(' ', input.Faults));
        html.Append("</p>\n"u8);
    }

    private static string? Hint(FormInput input)
    {
        var said = new List<string>();
        if (input.Field.Help is { } help)
            said.Add(help);
        if (input.Field.Input == InputKind.Secret)
            said.Add("It is never shown. Left empty it stays as it is.");
        if (input.Field.Rules is { Pattern: not null, Example: { } example } && input.Field.Help is null)
            said.Add($"Such as {example}.");
        if (input.Field is { Input: InputKind.Moment, Conventions.Zone: { } zone })
            said.Add($"Time of {zone.Id}.");
        return said.Count == 0 ? null : string.Join(' ', said);
    }

    private static void Box(FormInput input, Utf8Buffer html)
    {
        html.Append("<label class=\"box\" for=\""u8);
        html.AppendEncoded(Id(input));
        html.Append("\"><input type=\"checkbox\" value=\"true\""u8);
        Common(input, html);
        html.Append(input.Text == "true" ? " checked> "u8 : "> "u8);
        html.AppendEncoded(input.Field.Label);
        html.Append("</label>\n"u8);
        Beside(input, html);
    }

    private static void Common(FormInput input, Utf8Buffer html)
    {
        html.Append(" id=\""u8);
        html.AppendEncoded(Id(input));
        html.Append("\" name=\""u8);
        html.AppendEncoded(input.Name);
        html.Append("\""u8);
        var described = (Hint(input) is null ? "" : $"{Id(input)}-hint") + (input.Faults.Count == 0 ? "" : $" {Id(input)}-fault");
        if (described.Length > 0)
        {
            html.Append(" aria-describedby=\""u8);
            html.AppendEncoded(described.Trim());
            html.Append("\""u8);
        }

        if (input.Faults.Count > 0)
            html.Append(" aria-invalid=\"true\""u8);
        // A select element may be required only if its first option means that nothing is chosen (HTML, the select element).
        if (
            input.Field.Rules.Required
            && input.Field.Input != InputKind.Boolean
            && (input.Options.Count == 0 || input.Options[0].Value.Length == 0)
        )
            html.Append(" required"u8);
    }

    private static void Select(FormInput input, Utf8Buffer html)
    {
        html.Append("<select"u8);
        Common(input, html);
        html.Append(">\n"u8);
        foreach (var option in input.Options)
        {
            html.Append("<option value=\""u8);
            html.AppendEncoded(option.Value);
            html.Append(option.IsSelected ? "\" selected>"u8 : "\">"u8);
            html.AppendEncoded(option.Label);
            html.Append("</option>\n"u8);
        }

        html.Append("</select>\n"u8);
    }

    /// <summary>If there are many records, they are searched by name. The answer is the same form with the found ones.</summary>
    private static void Search(FormInput input, string search, Utf8Buffer html)
    {
        html.Append("<span class=\"seek\"><label class=\"unseen\" for=\""u8);
        html.AppendEncoded($"{Id(input)}-find");
        html.Append("\">"u8);
        html.AppendEncoded($"Find another for {input.Field.Label}");
        html.Append("</label><input type=\"search\" maxlength=\"200\" placeholder=\"Find another\" id=\""u8);
        html.AppendEncoded($"{Id(input)}-find");
        html.Append("\" name=\""u8);
        html.AppendEncoded(SentForm.Find + input.Name);
        html.Append("\" value=\""u8);
        html.AppendEncoded(search);
        html.Append("\"> <button type=\"submit\" formnovalidate name=\""u8);
        html.AppendEncoded(SentForm.Ask);
        html.Append("\" value=\""u8);
        html.AppendEncoded(input.Name);
        html.Append("\">Find</button></span>\n"u8);
        if (input.SearchNote is not { } note)
            return;
        html.Append("<p class=\"hint\" role=\"status\">"u8);
        html.AppendEncoded(note);
        html.Append("</p>\n"u8);
    }

    private static void Area(FormInput input, Utf8Buffer html)
    {
        html.Append("<textarea rows=\"6\""u8);
        Common(input, html);
        if (input.Field.Rules.MaxLength is { } most)
            html.Append($" maxlength=\"{most}\"");

        // HTML ignores the first line feed after the tag.
        html.Append(">\n"u8);
        html.AppendEncoded(input.Text);
        html.Append("</textarea>\n"u8);
    }

    private static void Line(FormInput input, Utf8Buffer html)
    {
        var field = input.Field;
        var isTyped = NumberText.IsTyped(field);
        var isOdd = isTyped || IsOdd(input);
        html.Append("<input type=\""u8);
        html.Append(
            isOdd
                ? "text"u8
                : field.Input switch
                {
                    InputKind.Whole or InputKind.Number => "number"u8,
                    InputKind.Date => "date"u8,
                    InputKind.Moment => "datetime-local"u8,
                    InputKind.Secret => "password"u8,
                    _ => "text"u8,
                }
        );
        html.Append("\""u8);
        Common(input, html);
        if (!isOdd)
            Limits(input, html);
        if (isTyped)
            html.Append(" inputmode=\"decimal\""u8);
        if (field.Input == InputKind.Secret)
            html.Append(" autocomplete=\"new-password\""u8);
        html.Append(" value=\""u8);
        html.AppendEncoded(input.IsAsTyped ? input.Text : NumberText.Shown(field, input.Text));
        html.Append("\">\n"u8);
    }

    /// <summary>The limits that the browser checks.</summary>
    private static void Limits(FormInput input, Utf8Buffer html)
    {
        var rules = input.Field.Rules;
        switch (input.Field.Input)
        {
            case InputKind.Whole:
            case InputKind.Number:
                Attribute("step", input.Field.Input == InputKind.Whole ? "1" : Step(rules, input.Text), html);
                Attribute("min", rules.Least?.ToString("0.############################", CultureInfo.InvariantCulture), html);
                Attribute("max", rules.Most?.ToString("0.############################", CultureInfo.InvariantCulture), html);
                break;
            case InputKind.Date:
                Attribute("min", rules.First?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "0001-01-01", html);
                Attribute("max", rules.Last?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "9999-12-31", html);
                break;
            case InputKind.Moment:
                Attribute(
                    "step",
                    input.Text.Contains('.') ? "any"
                        : input.Text.Length > 16 ? "1"
                        : null,
                    html
                );
                Attribute("min", rules.First?.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture), html);
                Attribute(
                    "max",
                    rules.Last?.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture) ?? "9999-12-31T23:59",
                    html
                );
                break;
            default:
                Attribute("maxlength", rules.MaxLength?.ToString(CultureInfo.InvariantCulture), html);
                Attribute("pattern", rules.PatternText, html);
                if (rules.PatternText is not null)
                    Attribute("title", rules.Example is { } example ? $"Such as {example}" : rules.PatternText, html);
                break;
        }
    }

    /// <summary>A value that the browser's own input for the type could not show, and would lose.</summary>
    private static bool IsOdd(FormInput input) =>
        input.Text.Length > 0
        && input.Field.Input switch
        {
            InputKind.Whole or InputKind.Number => !double.TryParse(
                input.Text,
                NumberStyles.Float,
                CultureInfo.InvariantCulture,
                out var number
            )
                || !double.IsFinite(number)
                || input.Text.StartsWith('+'),
            InputKind.Date => !DateOnly.TryParseExact(
                input.Text,
                "yyyy-MM-dd",
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out _
            ),
            // Browsers know milliseconds, and drop a moment with more digits.
            InputKind.Moment => !TypedText.TryTimestamp(System.Text.Encoding.UTF8.GetBytes(input.Text), out _)
                || !input.Text.Contains('T')
                || (input.Text.IndexOf('.') is >= 0 and var point && input.Text.Length - point > 4),
            _ => false,
        };

    private static string Step(FieldRules rules, string text)
    {
        if (rules.Scale is not { } scale)
            return "any";
        var point = text.IndexOf('.');

        // The present value may have more digits than are accepted now.
        return point >= 0 && text.Length - point - 1 > scale ? "any"
            : scale == 0 ? "1"
            : "0." + new string('0', scale - 1) + "1";
    }

    private static void Attribute(string name, string? value, Utf8Buffer html)
    {
        if (value is null)
            return;
        html.Append($" {name}=\"");
        html.AppendEncoded(value);
        html.Append("\""u8);
    }

    /// <summary>What somebody else did to the field meanwhile.</summary>
    private static void Clash(FormClash clash, Utf8Buffer html)
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

    private static void Choice(FormInput input, string? chosen, Utf8Buffer html)
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
