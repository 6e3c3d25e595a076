namespace Jexa.Core.Schemas;

/// <summary>What the rules of the source say about the values of a column.</summary>
/// <param name="OneOf">The only values that are allowed, as text; null if others are allowed too.</param>
/// <param name="Least">The least number.</param>
/// <param name="Most">The greatest number.</param>
/// <param name="MaxLength">The most characters in a text.</param>
/// <param name="Precision">The most digits in a decimal.</param>
/// <param name="Scale">The most digits after the decimal point.</param>
public sealed record ColumnRules(
    IReadOnlyList<string>? OneOf,
    decimal? Least,
    decimal? Most,
    int? MaxLength,
    int? Precision,
    int? Scale
)
{
    /// <summary>A column without rules of its own.</summary>
    public static ColumnRules None { get; } = new(null, null, null, null, null, null);
}
