namespace Jexa.Core.Definitions;

/// <summary>What the app file says of one page.</summary>
public sealed record PageDefinition
{
    /// <summary>The page's name in the app file.</summary>
    public required Written Name { get; init; }

    /// <summary>The path and query parameters of its addresses.</summary>
    public required Written Path { get; init; }

    /// <summary>Earlier paths of the page. They redirect to the present one.</summary>
    public required IReadOnlyList<Written> Was { get; init; }

    /// <summary>The base address below which another program draws the page; null if Jexa does.</summary>
    public required Written? DrawnAt { get; init; }

    /// <summary>What it shows or does.</summary>
    public required PageKind Kind { get; init; }

    /// <summary>The record kind; empty on a text page.</summary>
    public required Written Record { get; init; }

    /// <summary>The Markdown of a text page, or the file that holds it.</summary>
    public required Written? Text { get; init; }

    /// <summary>Its title; null if it is made from the record or the name.</summary>
    public required Written? Title { get; init; }

    /// <summary>The fields that it shows, in this order; empty for all, or for those that Jexa chooses.</summary>
    public required IReadOnlyList<Written> Show { get; init; }

    /// <summary>The order of a list's records.</summary>
    public required IReadOnlyList<OrderDefinition> Order { get; init; }

    /// <summary>The links on it.</summary>
    public required IReadOnlyList<LinkDefinition> Links { get; init; }

    /// <summary>Which field each parameter stands for, if its name does not say it.</summary>
    public required IReadOnlyList<PassDefinition> By { get; init; }

    /// <summary>Conditions on its records, besides being visible.</summary>
    public required IReadOnlyList<ConditionDefinition> Where { get; init; }

    /// <summary>Parameters that the page requires, besides those of its path and its ID.</summary>
    public required IReadOnlyList<Written> Required { get; init; }

    /// <summary>Fields that the search box searches.</summary>
    public required IReadOnlyList<Written> Search { get; init; }

    /// <summary>Rows in one window, if the address does not say it.</summary>
    public required int? Size { get; init; }

    /// <summary>How its records are shown: <c>table</c>, <c>cards</c> or <c>bullets</c>.</summary>
    public required Written? Look { get; init; }

    /// <summary>The side lists.</summary>
    public required IReadOnlyList<SideDefinition> Side { get; init; }

    /// <summary>The blocks of related records.</summary>
    public required IReadOnlyList<RelatedDefinition> Related { get; init; }

    /// <summary>The list beside the record.</summary>
    public required Written? Beside { get; init; }

    /// <summary>Whether the page has no links to the previous and next record.</summary>
    public required bool NeighboursHidden { get; init; }

    /// <summary>Whether the end of its recording leads to the next record, whose recording begins.</summary>
    public bool PlaysOn { get; init; }

    /// <summary>The place of the page in the menu; null for the order of the file.</summary>
    public required MenuPlace Menu { get; init; }

    /// <summary>The answers to missing and invalid IDs.</summary>
    public required IdAnswers Ids { get; init; }

    /// <summary>The fields of its form, in this order; empty for all that can be written.</summary>
    public required IReadOnlyList<Written> Form { get; init; }

    /// <summary>The page after a save; null for the record's own page, or its list if it has none or is gone.</summary>
    public required Written? Then { get; init; }

    /// <summary>The page that makes a new record from a list, or <c>none</c>; null for the first such page.</summary>
    public required Written? Add { get; init; }

    /// <summary>Which field fills which parameter of the page after a save, if it is not implied.</summary>
    public IReadOnlyList<PassDefinition> ThenWith { get; init; } = [];

    /// <summary>The pages that change the record and are made from this one: <c>edit</c>, <c>new</c>, <c>delete</c>.</summary>
    public IReadOnlyList<Written> Forms { get; init; } = [];

    /// <summary>Whether a text page shows all lists of the app below its text.</summary>
    public bool ShowsLists { get; init; }

    /// <summary>The lists that a text page searches: names, or <c>all</c>; empty for none.</summary>
    public IReadOnlyList<Written> Finds { get; init; } = [];

    /// <summary>The HTML file with the page's own design; null if Jexa designs it.</summary>
    public Written? Body { get; init; }

    /// <summary>Whether links outside of the app lead to the page.</summary>
    public bool LinkedElsewhere { get; init; }

    /// <summary>Whether it is about one record that its address names.</summary>
    public bool HasId => Kind.HasId;

    /// <summary>Whether it changes records.</summary>
    public bool Writes => Kind.Writes;
}
