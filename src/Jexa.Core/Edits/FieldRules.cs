using System.Text.RegularExpressions;

namespace Jexa.Core.Edits;

/// <summary>The rules for a value, checked before anything is written.</summary>
/// <param name="Least">The least number.</param>
/// <param name="First">The earliest moment, or day at midnight.</param>
/// <param name="Precision">The most digits of a decimal.</param>
/// <param name="Scale">The most digits after the decimal point.</param>
/// <param name="Pattern">Matches the whole text.</param>
/// <param name="PatternText">The same pattern for browsers.</param>
/// <param name="Example">A text that matches the pattern.</param>
public sealed record FieldRules(
    bool Required,
    int? MaxLength,
    decimal? Least,
    decimal? Most,
    DateTime? First,
    DateTime? Last,
    int? Precision,
    int? Scale,
    Regex? Pattern,
    string? PatternText,
    string? Example
)
{
    /// <summary>Every value is accepted.</summary>
    public static FieldRules None { get; } = new(false, null, null, null, null, null, null, null, null, null, null);
}
