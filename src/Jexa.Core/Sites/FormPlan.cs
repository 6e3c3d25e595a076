using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// The records that a foreign key can lead to: read all at once while they are few, searched where they are many.
/// </summary>
/// <param name="All">One more than a plain choice offers, by their labels.</param>
/// <param name="Found">Those whose label holds a text, or whose key it is; one more than are shown.</param>
/// <param name="One">One by its key.</param>
/// <param name="Keys">The columns that the foreign key refers to, in its order.</param>
public sealed record ReferenceChoices(
    SiteRecord Other,
    IPreparedQuery All,
    IPreparedQuery? Found,
    IPreparedQuery? FoundByKey,
    IPreparedQuery One,
    IReadOnlyList<ChoiceKey> Keys,
    TextPlan Label
)
{
    /// <summary>More records than these are searched.</summary>
    public const int MostInList = 100;

    /// <summary>Records shown of a search.</summary>
    public const int MostFound = 20;

    /// <summary>
    /// The text that chooses the record of a row: its key, several parts percent-encoded with slashes between. Null if no address
    /// could carry it.
    /// </summary>
    public string? ValueOf(Row row)
    {
        using var text = new Utf8Buffer(64);
        var parts = new string[Keys.Count];
        for (var i = 0; i < parts.Length; i++)
        {
            text.Truncate(0);
            if (!Keys[i].Type.TryWrite(row, Keys[i].Ordinal, text))
                return null;
            parts[i] = text.ToString();
        }

        return Joined(parts);
    }

    /// <summary>The text that chooses a record.</summary>
    /// <param name="parts">Its key's ID texts.</param>
    public static string Joined(IReadOnlyList<string> parts) =>
        parts is [var only] ? only : string.Join('/', parts.Select(Uri.EscapeDataString));

    /// <summary>The ID texts of a choice's text; null if there are not as many as the key has parts.</summary>
    public string[]? PartsOf(string value)
    {
        string[] parts = Keys.Count == 1 ? [value] : [.. value.Split('/').Select(Uri.UnescapeDataString)];
        return parts.Length == Keys.Count ? parts : null;
    }

    /// <summary>The key of a choice's text; null if it is none.</summary>
    public Constant[]? KeyOf(string value)
    {
        if (PartsOf(value) is not { } parts)
            return null;
        var key = Keys.Zip(parts, (one, part) => one.Type.Read(part).Value).OfType<Constant>().ToArray();
        return key.Length == Keys.Count ? key : null;
    }

    /// <summary>Whether a row is exactly the record of a key.</summary>
    public bool Is(Row row, IReadOnlyList<Constant> key) =>
        Keys.Select((one, i) => one.Type.Compare(row, one.Ordinal, key[i])).All(match => match == KeyMatch.Exact);
}

/// <summary>A column of the key of records that can be chosen.</summary>
/// <param name="Type">How it is read and written.</param>
/// <param name="Ordinal">Where it stands in a row, read as its type.</param>
/// <param name="Stored">The same, as it is stored: that is what the foreign key will hold.</param>
public sealed record ChoiceKey(KeyType Type, int Ordinal, int Stored);

/// <summary>A field of a form with what surrounds it.</summary>
/// <param name="Shown">How its value is shown and told as JSON; null in the form of a new record.</param>
/// <param name="Picture">Where the picture is that it names; null for none.</param>
public sealed record FormEntry(
    FormField Field,
    SiteField Of,
    ReferenceChoices? Reference,
    ViewColumn? Shown,
    PicturePlan? Picture
)
{
    public string Name => Field.Name;
}

/// <summary>
/// A foreign key of several columns that a form asks for as one choice. Where no record need be chosen, a column that says
/// something by
/// itself keeps its own input, and the choice must agree with it.
/// </summary>
/// <param name="Name">The name of its input.</param>
/// <param name="Entries">The fields of the foreign key, in its order.</param>
/// <param name="Own">Those that only the choice fills.</param>
/// <param name="Last">The field in whose place it stands, and at which its faults are said.</param>
/// <param name="Reference">The records that can be chosen.</param>
/// <param name="Within">For each of the fields, the records that have a given value in it.</param>
public sealed record TiedChoice(
    string Name,
    string Label,
    IReadOnlyList<FormEntry> Entries,
    IReadOnlyList<FormEntry> Own,
    FormEntry Last,
    ReferenceChoices Reference,
    IReadOnlyList<ReferenceChoices> Within
)
{
    /// <summary>Whether it must be made.</summary>
    public bool IsRequired => Own.Any(entry => entry.Field.Rules.Required);
}

/// <summary>Columns that no two rows may share.</summary>
/// <param name="Query">The keys, as they are stored, of rows that have given values.</param>
public sealed record UniqueCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query);

/// <summary>A foreign key of several columns: the row it leads to must be there.</summary>
public sealed record ReferenceCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query, string One);

/// <summary>A form, compiled.</summary>
/// <param name="KeyMade">UUID keys that Jexa makes for a new record.</param>
public sealed record FormPlan(
    IReadOnlyList<FormEntry> Entries,
    IReadOnlyList<UniqueCheck> Unique,
    IReadOnlyList<ReferenceCheck> References,
    IReadOnlyList<SiteField> KeyMade
)
{
    /// <summary>Foreign keys of several columns that are one choice each, for people; programs write their columns.</summary>
    public IReadOnlyList<TiedChoice> Tied { get; init; } = [];

    public FormEntry? Find(string name) => Entries.FirstOrDefault(entry => entry.Name == name);
}

/// <summary>A page that changes one record.</summary>
/// <param name="title">What it is called, filled from the record.</param>
/// <param name="delete">The page that deletes the same record; null for none.</param>
public sealed class EditPage(
    PageHead head,
    FormPlan form,
    RecordLookup lookup,
    LinkPlan own,
    TextPlan title,
    IReadOnlyList<StoredColumn> columns,
    ChangePlan changes,
    IReadOnlyList<LinkPlan> apart,
    LinkPlan? cancel,
    PlainLink? back,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : RecordPage(head, lookup, own, back, missingPage)
{
    public override string Kind => "edit";

    public override string Methods => "GET, HEAD, POST, PATCH";

    public override bool Takes(string method, bool isJson) => isJson == (method == "PATCH");

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public FormPlan Form { get; } = form;

    public TextPlan Title { get; } = title;

    /// <summary>Every column of the record in the page's own load, as it is stored.</summary>
    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    public ChangePlan Changes { get; } = changes;

    /// <summary>Links that the app file writes.</summary>
    public IReadOnlyList<LinkPlan> Apart { get; } = apart;

    /// <summary>The record's own page; null where there is none.</summary>
    public LinkPlan? Cancel { get; } = cancel;
}

/// <summary>A page that makes a record.</summary>
public sealed class NewPage(
    PageHead head,
    FormPlan form,
    string title,
    IReadOnlyList<ParentPlan> parents,
    ChangePlan changes,
    PlainLink? cancel,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : Page(head)
{
    public override string Kind => "new";

    public override string Methods => "GET, HEAD, POST";

    public override bool Takes(string method, bool isJson) => method == "POST";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public FormPlan Form { get; } = form;

    public string Title { get; } = title;

    /// <summary>The records that its parameters name.</summary>
    public IReadOnlyList<ParentPlan> Parents { get; } = parents;

    public ChangePlan Changes { get; } = changes;

    public PlainLink? Cancel { get; } = cancel;

    /// <summary>Where a person is led who does not say what the new record belongs to.</summary>
    public PageHead? MissingPage { get; } = missingPage;
}

/// <summary>Rows that refer to a record.</summary>
/// <param name="Many">What they are called.</param>
/// <param name="Count">Those that may be seen, by the values they refer to.</param>
/// <param name="Ordinals">Where those values stand in a row, as they are stored.</param>
public sealed record DependentPlan(
    string One,
    string Many,
    IPreparedQuery Count,
    IReadOnlyList<int> Ordinals,
    Schemas.DeleteRule Rule
)
{
    /// <summary>Counting stops here.</summary>
    public const int CountLimit = 10_000;
}

/// <summary>A page that deletes one record, once it is asked a second time.</summary>
public sealed class DeletePage(
    PageHead head,
    DetailShape shape,
    RecordLookup lookup,
    IReadOnlyList<StoredColumn> columns,
    IReadOnlyList<DependentPlan> dependents,
    ChangePlan changes,
    LinkPlan? cancel,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : RecordPage(head, lookup, shape.Own, shape.Back, missingPage)
{
    public override string Kind => "delete";

    public override string Methods => "GET, HEAD, POST, DELETE";

    public override bool Takes(string method, bool isJson) => method == "POST" && !isJson;

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public DetailShape Shape { get; } = shape;

    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    public IReadOnlyList<DependentPlan> Dependents { get; } = dependents;

    public ChangePlan Changes { get; } = changes;

    public LinkPlan? Cancel { get; } = cancel;
}
