namespace Jexa.Core.Proof;

/// <summary>A link of one row, with what it turned out to be.</summary>
/// <param name="Key">The ID of the row.</param>
/// <param name="Times">The rows that have this link; more than one if several have the same.</param>
internal readonly record struct LinkCase(LinkVerdict Verdict, RowKey Key, string? Address, long Times);
