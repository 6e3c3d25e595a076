namespace Jexa.Core.Definitions;

/// <summary>Records beside a record: those a foreign key ties to it, or a small list that has nothing to do with it.</summary>
/// <param name="Record">The record kind; null for a notice.</param>
/// <param name="By">The foreign key's field where several lead there.</param>
/// <param name="All">The list that shows all of them.</param>
/// <param name="Notice">Markdown in place of records.</param>
/// <param name="IsUnrelated">The records have nothing to do with the page's own.</param>
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
    /// <summary>
    /// Which of their fields (the parameter) equals which of the page's, where no foreign key ties them; they may be of another
    /// source.
    /// </summary>
    public IReadOnlyList<PassDefinition> Tied { get; init; } = [];
}
