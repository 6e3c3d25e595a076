namespace Jexa.Core.Addresses;

/// <summary>One segment of a template: a literal, or one parameter between a literal prefix and suffix.</summary>
/// <param name="Literal">The decoded literal; null if the segment holds a parameter.</param>
/// <param name="Parameter">The parameter's name; null if the segment is a literal.</param>
public sealed record SegmentPattern(string? Literal, string Prefix, string? Parameter, string Suffix)
{
    /// <summary>A segment without a parameter.</summary>
    public static SegmentPattern OfLiteral(string literal) => new(literal, "", null, "");

    /// <summary>Whether two segments match the same texts. Names of parameters do not count.</summary>
    public bool MatchesSameAs(SegmentPattern other) =>
        Literal == other.Literal && Prefix == other.Prefix && Suffix == other.Suffix;
}
