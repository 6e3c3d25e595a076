using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>What compiling one body needs to know, and what has been found out so far.</summary>
internal sealed class BodyContext
{
    /// <summary>The page; null for the frame around all pages.</summary>
    public required Page? Page { get; init; }

    /// <summary>The name of the page, or of the frame, for files that are made of it.</summary>
    public string Name => Page?.Name ?? ".frame";

    public required BodyDocument Document { get; init; }

    public required BodyLinks Links { get; init; }

    public required IReadOnlyDictionary<string, PageHead?> Pages { get; init; }

    public required AppDefinition App { get; init; }

    public required string Mount { get; init; }

    public required FindingList Findings { get; init; }

    /// <summary>The scope of the page itself.</summary>
    public required BodyScope Root { get; init; }

    /// <summary>The scopes of the page's blocks by name, or that of a list's records.</summary>
    public required IReadOnlyDictionary<string, BodyScope> Repeated { get; init; }

    public BodyMarkup Out { get; } = new();

    /// <summary>Elements that stand for further records in the design, and are dropped.</summary>
    public HashSet<IElement> Samples { get; } = [];

    public HashSet<BodyWord> Placed { get; } = [];

    public HashSet<BodyPart> PlacedParts { get; } = [];

    /// <summary>How many elements were bound to something.</summary>
    public int Bound { get; set; }

    /// <summary>The form of the page; null on pages without one.</summary>
    public FormPlan? Form =>
        Page switch
        {
            EditPage edit => edit.Form,
            NewPage fresh => fresh.Form,
            _ => null,
        };

    /// <summary>Reports a value in a place that cannot hold it.</summary>
    public void Misplace(IElement element, string message, string remedy) =>
        Findings.Add(FindingCodes.BodyMisplaced, Document.At(element), message, remedy, found: $"<{element.LocalName}>");

    /// <summary>Reports an element that no page may have.</summary>
    public void Refuse(IElement element, string name) =>
        Findings.Add(
            FindingCodes.BodyRefused,
            Document.At(element),
            $"A page may not have <{name}>.",
            "Remove it: a page shows only what comes from the app itself.",
            found: $"<{name}>"
        );

    /// <summary>Reports a name that stands for nothing, with the nearest that does.</summary>
    public void Unknown(IElement element, string attribute, string name, string what, IEnumerable<string> valid) =>
        Findings.AddUnknown(FindingCodes.BodyUnknownName, Document.Text(element, attribute, name), what, valid);

    /// <summary>Warns about a part of the body that stays as it was designed, or is left out.</summary>
    public void Warn(Place at, string message, string remedy) => Findings.Add(FindingCodes.BodyUnbound, at, message, remedy);

    /// <summary>The ID that Jexa gives to a control of the form; null for another element. Labels follow it.</summary>
    public string? ControlId(string id) =>
        Document.Document.GetElementById(id)?.GetAttribute("name") is { } name && Form?.Find(name) is not null
            ? FormInput.IdOf(name)
            : null;

    public void CheckBound()
    {
        // A wrong name is one mistake: that nothing is bound by it is not another.
        if (Bound == 0 && !Findings.All.Any(finding => finding.At.File == Document.At(Document.Main).File))
            Warn(
                Document.At(Document.Main),
                $"Nothing in {Document.Name} is bound: every {Page?.Record?.One ?? "record"} looks the same.",
                "Bind the first value, such as <h1 data-page=\"title\">, or an element with itemprop=\"FIELD\"."
            );
    }

    /// <summary>
    /// The field of a name in scope; null, and reported, if it is not shown here. Only what the page tells programs too can stand
    /// in its body: secret and hidden fields cannot.
    /// </summary>
    public ViewColumn? Field(IElement element, string attribute, string name, BodyScope scope)
    {
        if (scope.Find(name) is { } column)
        {
            Bound++;
            return column;
        }

        var place = Document.Text(element, attribute, name);
        var record = scope.Block < 0 ? Page?.Record : (Page as DetailPage)?.Blocks[scope.Block].Record;
        var known = scope.Prefix.Length == 0 ? record?.Find(name) : null;
        if (known is { Secret: false } && scope.Columns.Count > 0)
            Findings.Add(
                new Finding(
                    FindingCodes.BodyNotShown,
                    place.At,
                    $"The field {name} is not among those that {scope.What} shows.",
                    name,
                    string.Join(", ", scope.Columns.Select(shown => shown.Name)),
                    null,
                    $"Write show: [{string.Join(", ", scope.Columns.Select(shown => shown.Name).Append(name))}]"
                )
            );
        else if (
            scope == Root
            && Repeated.FirstOrDefault(rows => rows.Value.Find(name) is not null) is { Key: { } block, Value.Block: var number }
        )
            Findings.Add(
                FindingCodes.BodyMisplaced,
                place.At,
                $"{name} belongs to the records of “{block}”, and stands outside of them.",
                $"Put it inside of the element that is one of them: <… itemprop=\"{block}\" itemscope>"
                    + (number < 0 ? "." : $", or bind a field of {What(Page)} here."),
                found: name
            );
        else
            Findings.AddUnknown(
                FindingCodes.BodyUnknownName,
                place,
                $"field that {scope.What} shows called",
                scope
                    .Columns.Where(shown => shown.Name.StartsWith(scope.Prefix, StringComparison.Ordinal))
                    .Select(shown => shown.Name[scope.Prefix.Length..])
                    .Concat(scope == Root ? Repeated.Keys : [])
            );
        return null;
    }

    private static string What(Page? page) => page?.Record?.One is { } one ? $"the {one}" : "the page";
}
