namespace Jexa.Core.Sites;

/// <summary>A heading with parameters in it.</summary>
/// <param name="Pieces">In order; empty if the heading is always the fallback.</param>
/// <param name="Fallback">The heading if one of its parameters is absent.</param>
public sealed record HeadingPlan(IReadOnlyList<HeadingPiece> Pieces, string Fallback);
