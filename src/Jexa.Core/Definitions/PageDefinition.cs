namespace Jexa.Core.Definitions;

/// <param name="Was">Earlier paths of the page. They redirect to the present one.</param>
/// <param name="DrawnAt">The base address below which another program draws the page; null if Jexa does.</param>
/// <param name="Record">The record kind; empty on a text page.</param>
/// <param name="Text">The Markdown of a text page, or the file that holds it.</param>
/// <param name="Where">Conditions on its records, besides being visible.</param>
/// <param name="Required">Parameters that the page requires, besides those of its path and its ID.</param>
/// <param name="Search">Fields that the search box searches.</param>
/// <param name="Size">Rows in one window, if the address does not say it.</param>
/// <param name="Look">How its records are shown: <c>table</c>, <c>cards</c> or <c>bullets</c>.</param>
/// <param name="Beside">The list beside the record.</param>
/// <param name="NeighboursHidden">Whether the page has no links to the previous and next record.</param>
/// <param name="Menu">The place of the page in the menu; null for the order of the file.</param>
/// <param name="Form">The fields of its form, in this order; empty for all that can be written.</param>
/// <param name="Then">The page after a save; null for the record's own page, or its list if it has none or is gone.</param>
/// <param name="Add">The page that makes a new record from a list, or <c>none</c>; null for the first such page.</param>
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
    /// <summary>Which field fills which parameter of the page after a save, if it is not implied.</summary>
    public IReadOnlyList<PassDefinition> ThenWith { get; init; } = [];

    /// <summary>The pages that change the record and are made from this one: <c>edit</c>, <c>new</c>, <c>delete</c>.</summary>
    public IReadOnlyList<Written> Forms { get; init; } = [];

    /// <summary>Whether a text page shows all lists of the app below its text.</summary>
    public bool ShowsLists { get; init; }

    /// <summary>Whether links outside of the app lead to the page.</summary>
    public bool LinkedElsewhere { get; init; }

    /// <summary>Whether it is about one record that its address names.</summary>
    public bool HasId => Kind.HasId;

    /// <summary>Whether it changes records.</summary>
    public bool Writes => Kind.Writes;
}
