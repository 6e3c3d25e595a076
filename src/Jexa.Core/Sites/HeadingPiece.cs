using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A literal, or a parameter.</summary>
/// <param name="Parent">The parent whose label stands for it; -1 for the parameter's own value.</param>
/// <param name="Field">How the value is shown.</param>
public readonly record struct HeadingPiece(string? Literal, int Parameter, int Parent, SiteField? Field, KeyType? Key);
