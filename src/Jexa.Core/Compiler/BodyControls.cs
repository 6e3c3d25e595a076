using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>
/// Binds the form of a body to the page's form: each control by its name. Value, type, limits, choices and faults come from the
/// field.
/// </summary>
internal sealed class BodyControls(BodyContext context, BodyAttributes attributes)
{
    private static readonly HashSet<string> Controls = ["input", "select", "textarea"];

    /// <summary>Attributes that Jexa writes.</summary>
    private static readonly string[] Taken =
    [
        "name",
        "value",
        "type",
        "required",
        "checked",
        "min",
        "max",
        "step",
        "maxlength",
        "minlength",
        "pattern",
        "id",
        "aria-invalid",
        "aria-describedby",
        "selected",
        "multiple",
    ];

    /// <summary>Types that a design may give to an input, besides those that Jexa would give.</summary>
    private static readonly HashSet<string> Types = ["range", "email", "tel", "url", "search", "radio", "checkbox", "color"];

    private readonly HashSet<string> _placed = [];
    private IElement? _form;

    public bool HasForm => _form is not null && context.Form is not null;

    /// <summary>Whether an element is the form of the page: the one that holds one of its controls or fields.</summary>
    public bool IsForm(IElement element) =>
        element.LocalName == "form"
        && (
            context.Form is { } form
                ? element.QuerySelectorAll("[name], [data-part]").Any(one => Asked(form, one) is not null)
                : context.Page is ListPage
                    && element.QuerySelectorAll("[name]").Any(one => IsListControl(one.GetAttribute("name")!))
        );

    private static string? Asked(FormPlan form, IElement element)
    {
        var name = element.GetAttribute("name")
            ?? (
                element.GetAttribute("data-part") is { } part && part.StartsWith("field.", StringComparison.Ordinal)
                    ? part[6..]
                    : ""
            );
        return form.Find(name)?.Name;
    }

    private bool IsListControl(string name) => ListControls().Contains(name);

    /// <summary>What the form of a list may ask for: its controls, and parameters that need not be given.</summary>
    private IEnumerable<string> ListControls() =>
        context.Page is not ListPage list
            ? []
            :
            [
                .. list.Plan.CanSearch ? [ListControlNames.Find] : Array.Empty<string>(),
                ListControlNames.Order,
                ListControlNames.Size,
                .. list.Parameters.Where(parameter => parameter is { Required: false, Segment: < 0 }).Select(one => one.Name),
            ];

    public bool Form(IElement element, Func<bool> children)
    {
        if (_form is not null)
            context.Misplace(element, "There are two forms for one record.", "Put all controls into one form.");
        _form = element;
        context.Bound++;
        context.Out.Begin();
        context.Out.Html("<form");
        attributes.Write(element, context.Root, ["action", "method", "enctype", "target", "novalidate"]);
        var open = context.Out.End().OfType<BodyStep.Literal>().FirstOrDefault()?.Html ?? BodyMarkup.Bytes("<form");
        foreach (var part in element.QuerySelectorAll("[data-part]"))
            if (context.Form is { } form && Asked(form, part) is { } name)
                _placed.Add(name);
        if (context.Page is ListPage)
            foreach (var other in element.QuerySelectorAll("[name]").Where(one => !IsListControl(one.GetAttribute("name")!)))
                context.Unknown(other, "name", other.GetAttribute("name")!, "control of this list called", ListControls());
        context.Out.Begin();
        children();
        context.Out.Add(new BodyStep.Form(open, [.. _placed], context.Out.End()));
        if (
            context.Form is not null
            && element.QuerySelector("button:not([type=button]), input[type=submit], input[type=image]") is null
        )
            context.Warn(context.Document.At(element), "The form has no button that sends it.", "Add <button>Save</button>.");
        return false;
    }

    public bool IsControl(IElement element, BodyScope scope) =>
        Controls.Contains(element.LocalName)
        && element.GetAttribute("name") is { Length: > 0 } name
        && _form is not null
        && !scope.IsRepeated
        && (
            context.Form is not null ? element.GetAttribute("type") is not ("submit" or "image" or "button") : IsListControl(name)
        );

    public bool Control(IElement element, BodyScope scope)
    {
        var name = element.GetAttribute("name")!;
        var entry = context.Form?.Find(name);
        if (context.Form is { } form && entry is null)
        {
            context.Unknown(element, "name", name, "field of the form called", form.Entries.Select(one => one.Name));
            return false;
        }

        context.Bound++;
        _placed.Add(name);
        if (IsConditional(element))
            context.Misplace(
                element,
                $"The control for {name} would not always be there: what is not sent would be taken for empty.",
                "Take the condition away, or leave the field out of the form."
            );
        context.Out.Begin();
        attributes.Write(element, scope, Taken);
        var type = element.GetAttribute("type")?.ToLowerInvariant();
        context.Out.Add(
            new BodyStep.Control(
                name,
                element.LocalName,
                context.Out.End().OfType<BodyStep.Literal>().FirstOrDefault()?.Html ?? []
            )
            {
                Type = type is not null && Types.Contains(type) ? type : null,
                Choice = type == "radio" ? element.GetAttribute("value") ?? "" : null,
                Options =
                    element.LocalName != "select" ? null
                    : entry is null ? Given(element)
                    : Options(element, entry),
                HasFaults = Places(name, "fault"),
                HasHelp = Places(name, "help"),
            }
        );
        if (type == "radio" && entry is not null)
            CheckChoice(element, entry.Field, element.GetAttribute("value") ?? "");
        return false;
    }

    /// <summary>Whether the body says where something of a field stands.</summary>
    private bool Places(string name, string what) =>
        context.Document.Main.QuerySelectorAll("[data-page]").Any(one => one.GetAttribute("data-page") == $"{name}.{what}");

    private bool IsConditional(IElement element)
    {
        for (var at = element; at is not null && at != _form; at = at.ParentElement)
            if (at.HasAttribute("data-needs") || at.HasAttribute("data-lacks"))
                return true;
        return false;
    }

    /// <summary>The options of a control that narrows a list.</summary>
    private static List<(string Value, string Text)> Given(IElement element) =>
        [
            .. element
                .QuerySelectorAll("option")
                .Select(option => (option.GetAttribute("value") ?? option.TextContent.Trim(), option.TextContent.Trim())),
        ];

    /// <summary>Options that all say their value are kept, and checked against the choices. Others are samples.</summary>
    private List<(string Value, string Text)>? Options(IElement element, FormEntry? entry)
    {
        var options = element.QuerySelectorAll("option").ToList();
        if (entry is null || options.Count == 0 || options.Exists(option => !option.HasAttribute("value")))
            return null;
        foreach (var option in options.Where(option => option.GetAttribute("value")!.Length > 0))
            CheckChoice(option, entry.Field, option.GetAttribute("value")!);
        var given = options.Select(option => option.GetAttribute("value")!).ToHashSet();
        foreach (var choice in entry.Field.Choices.Where(choice => !given.Contains(choice.Value)))
            context.Findings.Add(
                FindingCodes.BodyFormIncomplete,
                context.Document.At(element),
                $"{entry.Name} can be {choice.Value}, and the body has no option for it.",
                $"Add <option value=\"{choice.Value}\">{choice.Label}</option>, or leave value out of all options.",
                found: choice.Value
            );
        return [.. options.Select(option => (option.GetAttribute("value")!, option.TextContent.Trim()))];
    }

    private void CheckChoice(IElement element, FormField field, string value)
    {
        if (field.Choices.Count > 0 && field.Choices.All(choice => choice.Value != value))
            context.Unknown(
                element,
                "value",
                value,
                $"choice for {field.Name} called",
                field.Choices.Select(choice => choice.Value)
            );
    }

    /// <summary>Reports fields that the form asks for and the body has no control for.</summary>
    public void CheckAll()
    {
        if (context.Form is not { } form || context.PlacedParts.Contains(BodyPart.Form))
            return;
        if (form.Tied.Count > 0)
            context.Findings.Add(
                FindingCodes.BodyFormIncomplete,
                context.Document.At(_form ?? context.Document.Main),
                $"The form of “{context.Name}” asks for a record by a key of several fields.",
                "Let Jexa draw the form: <form data-part=\"form\"></form>",
                found: form.Tied[0].Name
            );
        var missing = form.Entries.Select(entry => entry.Name).Where(name => !_placed.Contains(name)).ToList();
        if (missing.Count == 0)
            return;
        var at = context.Document.At(_form ?? context.Document.Main);
        var kept = form.Entries.Select(entry => entry.Name).Where(_placed.Contains).ToList();
        context.Findings.Add(
            FindingCodes.BodyFormIncomplete,
            at,
            $"The form of “{context.Name}” asks for {string.Join(", ", missing)}, and the body has no control for "
                + $"{(missing.Count == 1 ? "it" : "them")}.",
            kept.Count == 0
                ? "Put a form into the body: <form data-part=\"form\"></form> is the one that Jexa draws."
                : $"Add <input name=\"{missing[0]}\">, or ask for less: form: [{string.Join(", ", kept)}]",
            found: string.Join(", ", missing)
        );
    }
}
