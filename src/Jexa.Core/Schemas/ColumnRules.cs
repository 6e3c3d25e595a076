namespace Jexa.Core.Schemas;

/// <summary>What the source's own rules say of one column's values.</summary>
/// <param name="OneOf">The only values there may be, as their texts; null if there are others.</param>
/// <param name="Least">The least number.</param>
/// <param name="Most">The greatest number.</param>
/// <param name="MaxLength">The most characters of a text.</param>
/// <param name="Precision">The most digits of a decimal.</param>
/// <param name="Scale">Its most digits behind the point.</param>
public sealed record ColumnRules(
    IReadOnlyList<string>? OneOf,
    decimal? Least,
    decimal? Most,
    int? MaxLength,
    int? Precision,
    int? Scale
)
{
    public static ColumnRules None { get; } = new(null, null, null, null, null, null);
}
