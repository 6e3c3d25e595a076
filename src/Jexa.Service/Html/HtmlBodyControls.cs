using System.Globalization;
using Jexa.Core.Bodies;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the controls that a body designs: as it looks there, with what the field says.</summary>
internal static class HtmlBodyControls
{
    public static void Write(BodyStep.Control control, PageView view, Utf8Buffer html)
    {
        if (view is ListView list)
            Narrow(control, list, html);
        else if (view is FormView form && form.Inputs.FirstOrDefault(input => input.Name == control.Name) is { } input)
            Field(control, form, input, html);
    }

    private static void Field(BodyStep.Control control, FormView view, FormInput input, Utf8Buffer html)
    {
        // What somebody must see or decide is never lost, whatever the design has room for.
        if (input.Clash is { } clash)
            HtmlFormWriter.Clash(clash, html);
        if (view.Undecided.TryGetValue(input.Name, out var chosen))
            HtmlFormWriter.Choice(input, chosen, html);
        if (input.Fixed is { } decided)
        {
            HtmlFormWriter.Decided(input, decided, html);
            return;
        }

        if (!control.HasFaults)
            HtmlControls.Faults(input, html);
        if (control.Choice is { } choice)
            Radio(control, input, choice, html);
        else if (input.Field.Upload is not null)
            HtmlFileControl.Write(input, html, control);
        else if (input.Options.Count > 0 || input.Search is not null)
            HtmlControls.Select(input, html, control);
        else if (control.Element == "textarea" || input.IsMultiline)
            HtmlControls.Area(input, html, control);
        else if (input.Field is { Input: InputKind.Boolean, Column.Nullable: false })
            HtmlControls.Check(input, html, control);
        else
            HtmlControls.Line(input, html, control);
        if (input.Search is { } search)
            HtmlControls.Search(input, search, html);
    }

    private static void Radio(BodyStep.Control control, FormInput input, string choice, Utf8Buffer html)
    {
        html.Append("<input type=\"radio\""u8);
        html.Append(control.Attributes);
        html.Append(" name=\""u8);
        html.AppendEncoded(input.Name);
        html.Append("\" value=\""u8);
        html.AppendEncoded(choice);
        html.Append(input.Text == choice ? "\" checked>"u8 : "\">"u8);
    }

    /// <summary>A control of the form that narrows a list.</summary>
    private static void Narrow(BodyStep.Control control, ListView view, Utf8Buffer html)
    {
        var controls = view.Controls;
        html.Append($"<{control.Element} name=\"{control.Name}\"");
        html.Append(control.Attributes);
        switch (control.Name)
        {
            case ListControlNames.Find when control.Element == "input":
                html.Append(" type=\"search\" maxlength=\"200\" value=\""u8);
                html.AppendEncoded(controls.Find ?? "");
                html.Append("\">"u8);
                break;
            case ListControlNames.Order when control.Element == "select":
                html.Append(">"u8);
                HtmlListForm.WriteOrderOptions(controls, html);
                html.Append("</select>"u8);
                break;
            case ListControlNames.Size when control.Element == "select":
                html.Append(">"u8);
                HtmlListForm.WriteSizeOptions(controls, html);
                html.Append("</select>"u8);
                break;
            default:
                Parameter(control, Asked(control.Name, controls), html);
                break;
        }
    }

    /// <summary>What the address says of a control or parameter of a list; empty for nothing.</summary>
    private static string Asked(string name, ListControls controls) =>
        name switch
        {
            ListControlNames.Order => controls.Order,
            ListControlNames.Size => controls.Size == controls.OwnSize
                ? ""
                : controls.Size.ToString(CultureInfo.InvariantCulture),
            _ => controls.Kept.FirstOrDefault(kept => kept.Name == name).Value ?? "",
        };

    private static void Parameter(BodyStep.Control control, string asked, Utf8Buffer html)
    {
        if (control.Element == "select")
        {
            html.Append(">"u8);
            foreach (var (value, text) in control.Options ?? [])
                HtmlListForm.WriteOption(value, text, value == asked, html);
            html.Append("</select>"u8);
            return;
        }

        if (control.Choice is { } choice)
        {
            html.Append(" type=\"radio\" value=\""u8);
            html.AppendEncoded(choice);
            html.Append(choice == asked ? "\" checked>"u8 : "\">"u8);
            return;
        }

        html.Append(" type=\""u8);
        html.AppendEncoded(control.Type ?? "text");
        html.Append("\" value=\""u8);
        html.AppendEncoded(asked);
        html.Append("\">"u8);
    }
}
