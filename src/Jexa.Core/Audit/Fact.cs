namespace Jexa.Core.Audit;

/// <summary>Something that a row says: words, a number or a date.</summary>
/// <param name="Text">In the one form that all ways of writing it have.</param>
/// <param name="Shown">As the row writes it.</param>
public sealed record Fact(FactKind Kind, string Text, string Shown);
