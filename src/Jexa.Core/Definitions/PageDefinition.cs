namespace Jexa.Core.Definitions;

/// <param name="Was">Paths the page had before: they lead to where it is now.</param>
/// <param name="DrawnAt">The base address below which another program draws the page; null if Jexa does.</param>
/// <param name="Record">The record kind; empty on a text page.</param>
/// <param name="Text">The Markdown of a text page, or the file that holds it.</param>
/// <param name="Where">What its records satisfy, beyond being visible.</param>
/// <param name="Required">Parameters without which the page is not meant; those of the path and of an ID always are.</param>
/// <param name="Search">Fields that the search box looks in.</param>
/// <param name="Size">Rows in one window where the address does not say it.</param>
/// <param name="Look">What its records look like: <c>table</c>, <c>cards</c> or <c>bullets</c>.</param>
/// <param name="Beside">The list that stands beside the record.</param>
/// <param name="NeighboursHidden">The page does not lead to the records before and behind.</param>
/// <param name="Menu">Where the page stands in the menu; null if the file's order decides.</param>
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
