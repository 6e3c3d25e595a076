namespace Jexa.Core.Definitions;

/// <summary>What an app file says, read but not yet compared with any source.</summary>
/// <param name="Origins">Other origins whose scripts may read pages as JSON.</param>
/// <param name="Lines">In the order of the file.</param>
public sealed record AppDefinition(
    string File,
    Written Title,
    Written? Home,
    IReadOnlyList<Written> Origins,
    IReadOnlyList<SourceDefinition> Sources,
    IReadOnlyList<RecordDefinition> Records,
    IReadOnlyList<PageDefinition> Pages,
    IReadOnlyList<PageLines> Lines)
{
    /// <summary>The folder that relative paths start from.</summary>
    public string Folder => Path.GetDirectoryName(Path.GetFullPath(File)) ?? "/";

    /// <summary>The name of the page that a place of the file belongs to; null where it belongs to none.</summary>
    public string? PageAt(Place place) => Lines.LastOrDefault(page => page.Holds(place))?.Name.Value;
}

/// <summary>Where a page stands in the app file, also one that could not be read.</summary>
public sealed record PageLines(Written Name, int LastLine)
{
    public bool Holds(Place place) =>
        place.Line <= LastLine && (place.Line > Name.At.Line || (place.Line == Name.At.Line && place.Column >= Name.At.Column));
}

/// <param name="Connection">As written; <c>${NAME}</c> in it stands for an environment variable.</param>
public sealed record SourceDefinition(Written Name, Written Engine, Written Connection);

/// <param name="Source">The part of <c>from</c> before the point.</param>
/// <param name="Table">The part of <c>from</c> behind the point.</param>
/// <param name="Key">Empty where it is read from the schema.</param>
/// <param name="UniqueAssumed">The developer vouches that the key is unique although nothing in the source keeps it so.</param>
public sealed record RecordDefinition(
    Written Name,
    Written Source,
    Written Table,
    IReadOnlyList<Written> Key,
    Written? Label,
    Written? One,
    Written? Many,
    bool UniqueAssumed,
    IReadOnlyList<ConditionDefinition> Visible,
    IReadOnlyList<FieldDefinition> Fields);

public enum ConditionKind
{
    Equal,
    Not,
    OneOf,
    Empty,
    Filled,
}

public sealed record ConditionDefinition(Written Field, ConditionKind Kind, IReadOnlyList<Written> Values);

/// <param name="Type">The type to read the field as, where the source does not say it.</param>
/// <param name="Secret">Never shown, traced or logged.</param>
/// <param name="Pattern">A regular expression that every text of the field matches whole.</param>
/// <param name="MaxLength">The most characters a text of the field has.</param>
/// <param name="SuchAs">An example, shown to visitors whose ID is malformed.</param>
public sealed record FieldDefinition(Written Name, Written? Label, Written? Type, bool Secret, Written? Pattern, int? MaxLength, Written? SuchAs);

public enum PageKind
{
    List,
    Detail,
}

/// <param name="Was">Paths the page had before: they lead to where it is now.</param>
public sealed record PageDefinition(
    Written Name,
    Written Path,
    IReadOnlyList<Written> Was,
    PageKind Kind,
    Written Record,
    Written? Title,
    IReadOnlyList<Written> Show,
    IReadOnlyList<OrderDefinition> Order,
    IReadOnlyList<LinkDefinition> Links,
    IReadOnlyList<PassDefinition> By,
    IdAnswers Ids);

public sealed record OrderDefinition(Written Field, bool Descending);

/// <param name="Column">The shown column the link stands on; null for a link of its own.</param>
/// <param name="With">Which field fills which parameter; what is left out is implied where only one reading is possible.</param>
public sealed record LinkDefinition(Written To, Written? Column, Written? Text, IReadOnlyList<PassDefinition> With);

/// <summary>A parameter and the field that fills it or that it stands for.</summary>
public sealed record PassDefinition(Written Parameter, Written Field);

/// <summary>A page's own answers for IDs that lead to no record.</summary>
/// <param name="MissingPage">The page that a person is led to when the ID is missing; null for the record's list.</param>
/// <param name="MissingStatus">400 or 404 where a missing ID leads nowhere else.</param>
public sealed record IdAnswers(Written? MissingPage, int? MissingStatus, int MalformedStatus)
{
    public static IdAnswers Default { get; } = new(null, null, 400);
}
