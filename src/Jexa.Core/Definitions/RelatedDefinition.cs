namespace Jexa.Core.Definitions;

/// <summary>Records beside a record: those with a foreign key to it, or a small unrelated list.</summary>
/// <param name="Record">The record kind; null for a notice.</param>
/// <param name="By">The field of the foreign key, if there are several.</param>
/// <param name="All">The list that shows all of them.</param>
/// <param name="Notice">Markdown instead of records.</param>
/// <param name="IsUnrelated">Whether the records have nothing to do with the page's record.</param>
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
    bool IsUnrelated
)
{
    /// <summary>The name in the query string that chooses one of the records, shown in place; null for all of them.</summary>
    public Written? Choose { get; init; }

    /// <summary>
    /// Which of their fields equals which field of the page's record, if there is no foreign key. They may come from another
    /// source.
    /// </summary>
    public IReadOnlyList<PassDefinition> Tied { get; init; } = [];
}
