namespace Jexa.Core.Definitions;

/// <summary>What an app file says, read but not yet compared with any source.</summary>
/// <param name="Zone">The time zone that moments are shown in, by its IANA name; null where they are shown as the source has
/// them.</param>
/// <param name="Locale">The locale that numbers and dates are written in (BCP 47).</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON.</param>
/// <param name="Writers">Other origins whose scripts may change records by JSON as well.</param>
/// <param name="Lines">In the order of the file.</param>
public sealed record AppDefinition(
    string File,
    Written Title,
    Written? Home,
    Written? NotFound,
    Written? Zone,
    Written? Locale,
    FrameDefinition Frame,
    IReadOnlyList<Written> Origins,
    IReadOnlyList<Written> Writers,
    IReadOnlyList<SourceDefinition> Sources,
    IReadOnlyList<RecordDefinition> Records,
    IReadOnlyList<PageDefinition> Pages,
    IReadOnlyList<PageLines> Lines
)
{
    /// <summary>The folder that relative paths start from.</summary>
    public string Folder => Path.GetDirectoryName(Path.GetFullPath(File)) ?? "/";

    /// <summary>The name of the page that a place of the file belongs to; null where it belongs to none.</summary>
    public string? PageAt(Place place) => Lines.LastOrDefault(page => page.Holds(place))?.Name.Value;
}

/// <summary>What the app puts around every page: files beside the app file, by their names.</summary>
/// <param name="Header">Markdown above every page's content.</param>
/// <param name="Footer">Markdown below every page's content.</param>
/// <param name="Logo">A picture before the app's name.</param>
/// <param name="Style">A style sheet behind Jexa's own.</param>
public sealed record FrameDefinition(Written? Header, Written? Footer, Written? Logo, Written? Style)
{
    public static FrameDefinition None { get; } = new(null, null, null, null);
}

/// <summary>Where a page stands in the app file, also one that could not be read.</summary>
public sealed record PageLines(Written Name, int LastLine)
{
    public bool Holds(Place place) =>
        place.Line <= LastLine && (place.Line > Name.At.Line || (place.Line == Name.At.Line && place.Column >= Name.At.Column));
}

/// <param name="Connection">As written; <c>${NAME}</c> in it stands for an environment variable.</param>
/// <param name="Writing">Whether Jexa may change what the source holds: <c>noted</c>, <c>bare</c> or <c>refused</c>.</param>
public sealed record SourceDefinition(Written Name, Written Engine, Written Connection, Written? Writing)
{
    public ApiDefinition? Api { get; init; }

    /// <summary>The connection to a copy that is read instead.</summary>
    public Written? Replica { get; init; }

    /// <summary>How a proxy before the source shares its sessions out.</summary>
    public Written? Pooling { get; init; }
}

/// <summary>How an API is called, as it is written.</summary>
/// <param name="Headers">Their names and values, in which variables may stand.</param>
public sealed record ApiDefinition(
    IReadOnlyList<(Written Name, Written Value)> Headers,
    IReadOnlyList<(Written Name, Written Value)> Parameters,
    bool LinkLocal,
    IReadOnlyList<Endpoints.ApiEndpoint> Endpoints
)
{
    /// <summary>The URL of the proxy that the API is called through, or <c>environment</c>; null for none.</summary>
    public Written? Proxy { get; init; }
}

/// <param name="Source">The source's name.</param>
/// <param name="Table">The table or view; null where the records come from a query.</param>
/// <param name="Query">The developer's own query; null where the records come from a table.</param>
/// <param name="Parameters">The query's named parameters.</param>
/// <param name="Key">Empty where it is read from the schema.</param>
/// <param name="UniqueAssumed">The developer vouches that the key is unique although nothing in the source keeps it so.</param>
/// <param name="Parent">The foreign key that leads to the record this one belongs to; empty where it belongs to none.</param>
public sealed record RecordDefinition(
    Written Name,
    Written Source,
    Written? Table,
    Written? Query,
    IReadOnlyList<QueryParameterDefinition> Parameters,
    IReadOnlyList<Written> Key,
    Written? Label,
    Written? One,
    Written? Many,
    bool UniqueAssumed,
    IReadOnlyList<Written> Parent,
    IReadOnlyList<ConditionDefinition> Visible,
    IReadOnlyList<FieldDefinition> Fields
);

/// <summary>A named parameter of a query: a page's parameter of the same name fills it, else the default.</summary>
public sealed record QueryParameterDefinition(Written Name, Written Type, Written? Default);

public enum ConditionKind
{
    Equal,
    Not,
    OneOf,
    Empty,
    Filled,

    /// <summary>Empty or filled, as the value says.</summary>
    Is,

    /// <summary>This value or a greater one.</summary>
    From,

    /// <summary>This value or a smaller one; for moments, the whole of that day.</summary>
    To,
    Above,
    Below,
    Contains,
    StartsWith,
    Year,
    Month,
    All,
    Any,
}

/// <summary>A condition on a field, or several conditions together.</summary>
/// <param name="Field">Empty where it stands over several conditions.</param>
/// <param name="Values">Written values, or <c>{parameter}</c>; for a month, the year behind it.</param>
/// <param name="Parts">What <see cref="ConditionKind.All"/> and <see cref="ConditionKind.Any"/> stand over.</param>
public sealed record ConditionDefinition(
    Written Field,
    ConditionKind Kind,
    IReadOnlyList<Written> Values,
    IReadOnlyList<ConditionDefinition> Parts
)
{
    public static ConditionDefinition Of(Written field, ConditionKind kind, params IReadOnlyList<Written> values) =>
        new(field, kind, values, []);
}

/// <param name="Type">The type to read the field as, where the source does not say it.</param>
/// <param name="Secret">Never shown, traced or logged.</param>
/// <param name="Pattern">A regular expression that every text of the field matches whole.</param>
/// <param name="MaxLength">The most characters a text of the field has.</param>
/// <param name="SuchAs">An example, shown to visitors whose ID is malformed.</param>
/// <param name="RefersTo">The record kind whose key the field holds, where the source declares no foreign key.</param>
/// <param name="As">How the field is shown.</param>
/// <param name="Under">The folder that pictures lie in.</param>
/// <param name="Base">The URL that pictures' names are put behind.</param>
/// <param name="Unit">Written behind each value.</param>
/// <param name="Decimals">Digits behind the decimal mark.</param>
/// <param name="Choices">What stands for each stored value.</param>
/// <param name="When">The field is shown only where these hold for its record.</param>
public sealed record FieldDefinition(
    Written Name,
    Written? Label,
    Written? Type,
    bool Secret,
    Written? Pattern,
    int? MaxLength,
    Written? SuchAs,
    Written? RefersTo,
    Written? As,
    Written? Under,
    Written? Base,
    Written? Unit,
    int? Decimals,
    IReadOnlyList<ChoiceDefinition> Choices,
    IReadOnlyList<ConditionDefinition> When
)
{
    /// <summary>What forms ask of the field.</summary>
    public InputDefinition Input { get; init; } = InputDefinition.None;
}

/// <summary>What forms ask of a field.</summary>
/// <param name="Required">It must be filled in, also where the source would take it empty.</param>
/// <param name="Min">The least number, or the first day or moment.</param>
/// <param name="Max">The greatest number, or the last day or moment.</param>
/// <param name="Help">A sentence beside the field.</param>
/// <param name="Default">What a new record's form begins with.</param>
/// <param name="Kept">Jexa fills the field itself: <c>created</c>, <c>changed</c> or <c>version</c>.</param>
public sealed record InputDefinition(
    Written? Required,
    Written? Min,
    Written? Max,
    Written? Help,
    Written? Default,
    Written? Kept
)
{
    public static InputDefinition None { get; } = new(null, null, null, null, null, null);
}

public sealed record ChoiceDefinition(Written Value, Written Label);

public enum PageKind
{
    List,
    Detail,
    Text,
    Edit,
    New,
    Delete,
}

/// <param name="Was">Paths the page had before: they lead to where it is now.</param>
/// <param name="DrawnAt">The base address below which another program draws the page; null where Jexa does.</param>
/// <param name="Record">The record kind; empty on a text page.</param>
/// <param name="Text">The Markdown of a text page, or the file that holds it.</param>
/// <param name="Where">What its records satisfy, beyond being visible.</param>
/// <param name="Required">Parameters without which the page is not meant; those of the path and of an ID always are.</param>
/// <param name="Search">Fields that the search box looks in.</param>
/// <param name="Size">Rows in one window where the address does not say it.</param>
/// <param name="Look">What its records look like: <c>table</c>, <c>cards</c> or <c>bullets</c>.</param>
/// <param name="Beside">The list that stands beside the record.</param>
/// <param name="NeighboursHidden">The page does not lead to the records before and behind.</param>
/// <param name="Menu">Where the page stands in the menu; null where the file's order decides.</param>
/// <param name="Form">The fields that its form asks for, in this order; empty for all that can be written.</param>
/// <param name="Then">The page that a save leads to; null for the record's own, or its list where there is none or it is
/// gone.</param>
/// <param name="Add">The page that a list leads to for a new record, or <c>none</c>; null for the first there is.</param>
public sealed record PageDefinition(
    Written Name,
    Written Path,
    IReadOnlyList<Written> Was,
    Written? DrawnAt,
    PageKind Kind,
    Written Record,
    Written? Text,
    Written? Title,
    IReadOnlyList<Written> Show,
    IReadOnlyList<OrderDefinition> Order,
    IReadOnlyList<LinkDefinition> Links,
    IReadOnlyList<PassDefinition> By,
    IReadOnlyList<ConditionDefinition> Where,
    IReadOnlyList<Written> Required,
    IReadOnlyList<Written> Search,
    int? Size,
    Written? Look,
    IReadOnlyList<SideDefinition> Side,
    IReadOnlyList<RelatedDefinition> Related,
    Written? Beside,
    bool NeighboursHidden,
    MenuPlace Menu,
    IdAnswers Ids,
    IReadOnlyList<Written> Form,
    Written? Then,
    Written? Add
)
{
    /// <summary>Which field fills which parameter of the page that a save leads to, as far as it is not implied.</summary>
    public IReadOnlyList<PassDefinition> ThenWith { get; init; } = [];

    /// <summary>The pages that change the record and follow from this one: <c>edit</c>, <c>new</c>, <c>delete</c>.</summary>
    public IReadOnlyList<Written> Forms { get; init; } = [];

    /// <summary>A text page shows all lists of the app below its text.</summary>
    public bool ShowsLists { get; init; }

    /// <summary>Links to the page stand outside of the app.</summary>
    public bool LinkedElsewhere { get; init; }

    /// <summary>Whether it is about one record that its address names.</summary>
    public bool HasId => Kind is PageKind.Detail or PageKind.Edit or PageKind.Delete;

    /// <summary>Whether it changes records.</summary>
    public bool Writes => Kind is PageKind.Edit or PageKind.New or PageKind.Delete;
}

/// <summary>Where a page stands in the menu.</summary>
/// <param name="IsHidden">Nowhere.</param>
/// <param name="Place">Smaller ones first, then those without, in the order of the file.</param>
public readonly record struct MenuPlace(bool IsHidden, int? Place);

public sealed record OrderDefinition(Written Field, bool Descending);

/// <param name="Column">The shown column the link stands on; null for a link of its own.</param>
/// <param name="OnRow">The link is the whole row's.</param>
/// <param name="With">Which field fills which parameter; what is left out is implied where only one reading is possible.</param>
/// <param name="When">The link stands only on records for which these hold.</param>
public sealed record LinkDefinition(
    Written To,
    Written? Column,
    Written? Text,
    bool OnRow,
    IReadOnlyList<PassDefinition> With,
    IReadOnlyList<ConditionDefinition> When
);

/// <summary>A parameter and the field that fills it or that it stands for.</summary>
public sealed record PassDefinition(Written Parameter, Written Field);

/// <summary>A side list: the distinct values of a field, each leading to the records that have it.</summary>
/// <param name="To">The list it leads to; implied where left out.</param>
public sealed record SideDefinition(Written By, Written? Part, Written? To, Written? Title, bool Descending);

/// <summary>Records beside a record: those a foreign key ties to it, or a small list that has nothing to do with it.</summary>
/// <param name="Record">The record kind; null for a notice.</param>
/// <param name="By">The foreign key's field where several lead there.</param>
/// <param name="All">The list that shows all of them.</param>
/// <param name="Notice">Markdown in place of records.</param>
/// <param name="Alone">The records have nothing to do with the page's own.</param>
public sealed record RelatedDefinition(
    Place At,
    Written? Record,
    Written? By,
    Written? Title,
    IReadOnlyList<Written> Show,
    IReadOnlyList<OrderDefinition> Order,
    int? Size,
    Written? All,
    Written? Look,
    IReadOnlyList<ConditionDefinition> Where,
    Written? Notice,
    bool Alone
)
{
    /// <summary>
    /// Which of their fields (the parameter) equals which of the page's, where no foreign key ties them; they may be of another
    /// source.
    /// </summary>
    public IReadOnlyList<PassDefinition> Tied { get; init; } = [];
}

/// <summary>A page's own answers for IDs that lead to no record.</summary>
/// <param name="MissingPage">The page that a person is led to when the ID is missing; null for the record's list.</param>
/// <param name="MissingStatus">400 or 404 where a missing ID leads nowhere else.</param>
public sealed record IdAnswers(Written? MissingPage, int? MissingStatus, int MalformedStatus)
{
    public static IdAnswers Default { get; } = new(null, null, 400);
}
