using System.Globalization;
using Jexa.Core.Bodies;
using Jexa.Core.Edits;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the controls of forms: those of the built-in pages, and those that a body designs.</summary>
internal static class HtmlControls
{
    /// <summary>The help for the field, and its faults.</summary>
    public static void Beside(FormInput input, Utf8Buffer html)
    {
        if (Hint(input) is { } hint)
        {
            html.Append("<p class=\"hint\" id=\""u8);
            html.AppendEncoded(FormInput.HintIdOf(input.Name));
            html.Append("\">"u8);
            html.AppendEncoded(hint);
            html.Append("</p>\n"u8);
        }

        Faults(input, html);
    }

    /// <summary>What is wrong with the field.</summary>
    public static void Faults(FormInput input, Utf8Buffer html)
    {
        if (input.Faults.Count == 0)
            return;
        html.Append("<p class=\"fault\" id=\""u8);
        html.AppendEncoded(FormInput.FaultIdOf(input.Name));
        html.Append("\">"u8);
        html.AppendEncoded(string.Join(' ', input.Faults));
        html.Append("</p>\n"u8);
    }

    public static string? Hint(FormInput input)
    {
        var said = new List<string>();
        if (input.Field.Help is { } help)
            said.Add(help);
        if (input.Field.Input == InputKind.Secret)
            said.Add("It is never shown. Left empty it stays as it is.");
        if (input.Field is { Upload: null, Help: null, Rules: { Pattern: not null, Example: { } example } })
            said.Add($"Such as {example}.");
        if (input.Field is { Input: InputKind.Moment, Conventions.Zone: { } zone })
            said.Add($"Time of {zone.Id}.");
        if (input.Field.Upload is { } upload)
            said.Add(HtmlFileControl.Hint(upload));
        return said.Count == 0 ? null : string.Join(' ', said);
    }

    public static void Box(FormInput input, Utf8Buffer html)
    {
        html.Append("<label class=\"box\" for=\""u8);
        html.AppendEncoded(input.Id);
        html.Append("\">"u8);
        Check(input, html, null);
        html.Append(" "u8);
        html.AppendEncoded(input.Field.Label);
        html.Append("</label>\n"u8);
        Beside(input, html);
    }

    /// <summary>A box to be ticked.</summary>
    public static void Check(FormInput input, Utf8Buffer html, BodyStep.Control? design)
    {
        html.Append("<input type=\"checkbox\" value=\"true\""u8);
        Common(input, html, design);
        html.Append(input.Text == "true" ? " checked>"u8 : ">"u8);
    }

    private static void Common(FormInput input, Utf8Buffer html, BodyStep.Control? design) =>
        Common(input, input.Name, html, design, isRequired: true);

    /// <param name="name">The name that it is sent with.</param>
    /// <param name="isRequired">Whether it must be filled in, if the field must.</param>
    public static void Common(FormInput input, string name, Utf8Buffer html, BodyStep.Control? design, bool isRequired)
    {
        if (design is not null)
            html.Append(design.Attributes);
        html.Append(" id=\""u8);
        html.AppendEncoded(input.Id);
        html.Append("\" name=\""u8);
        html.AppendEncoded(name);
        html.Append("\""u8);
        var hasHint = design?.HasHelp != false && Hint(input) is not null;
        var described =
            (hasHint ? FormInput.HintIdOf(input.Name) : "")
            + (input.Faults.Count == 0 ? "" : $" {FormInput.FaultIdOf(input.Name)}");
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
            isRequired
            && input.Field.Rules.Required
            && input.Field.Input != InputKind.Boolean
            && (input.Options.Count == 0 || input.Options[0].Value.Length == 0)
        )
            html.Append(" required"u8);
    }

    public static void Select(FormInput input, Utf8Buffer html, BodyStep.Control? design = null)
    {
        html.Append("<select"u8);
        Common(input, html, design);
        html.Append(">\n"u8);
        foreach (var option in Options(input, design))
        {
            html.Append("<option value=\""u8);
            html.AppendEncoded(option.Value);
            html.Append(option.IsSelected ? "\" selected>"u8 : "\">"u8);
            html.AppendEncoded(option.Label);
            html.Append("</option>\n"u8);
        }

        html.Append("</select>\n"u8);
    }

    /// <summary>The choices: those of the field, or those that the design says, with the same one chosen.</summary>
    private static IEnumerable<FormOption> Options(FormInput input, BodyStep.Control? design) =>
        design?.Options is not { } designed
            ? input.Options
            : designed.Select(option => new FormOption(option.Value, option.Text, option.Value == input.Text));

    /// <summary>If there are many records, they are searched by name. The answer is the same form with the found ones.</summary>
    public static void Search(FormInput input, string search, Utf8Buffer html)
    {
        html.Append("<span class=\"seek\"><label class=\"unseen\" for=\""u8);
        html.AppendEncoded($"{input.Id}-find");
        html.Append("\">"u8);
        html.AppendEncoded($"Find another for {input.Field.Label}");
        html.Append("</label><input type=\"search\" maxlength=\"200\" placeholder=\"Find another\" id=\""u8);
        html.AppendEncoded($"{input.Id}-find");
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

    public static void Area(FormInput input, Utf8Buffer html, BodyStep.Control? design = null)
    {
        html.Append(design is null ? "<textarea rows=\"4\""u8 : "<textarea"u8);
        Common(input, html, design);
        if (input.Field.Rules.MaxLength is { } most)
            html.Append($" maxlength=\"{most}\"");

        // HTML ignores the first line feed after the tag.
        html.Append(">\n"u8);
        html.AppendEncoded(input.Text);
        html.Append("</textarea>\n"u8);
    }

    public static void Line(FormInput input, Utf8Buffer html, BodyStep.Control? design = null)
    {
        var field = input.Field;
        var isTyped = NumberText.IsTyped(field);
        var isOdd = isTyped || IsOdd(input);
        html.Append("<input type=\""u8);
        if (design?.Type is { } given && !isOdd)
            html.AppendEncoded(given);
        else
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
        Common(input, html, design);
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

    public static void Attribute(string name, string? value, Utf8Buffer html)
    {
        if (value is null)
            return;
        html.Append($" {name}=\"");
        html.AppendEncoded(value);
        html.Append("\""u8);
    }
}
