using System.Text.RegularExpressions;

namespace Jexa.Core.Edits;

/// <summary>What a value must satisfy before anything is written.</summary>
/// <param name="Least">The least number.</param>
/// <param name="First">The first moment, or day at midnight.</param>
/// <param name="Precision">The most digits of a decimal.</param>
/// <param name="Scale">Its most digits behind the point.</param>
/// <param name="Pattern">What a whole text matches.</param>
/// <param name="PatternText">The same, as browsers read it.</param>
/// <param name="Example">A text that matches.</param>
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
    /// <summary>Every value is taken.</summary>
    public static FieldRules None { get; } = new(false, null, null, null, null, null, null, null, null, null, null);
}
