using Jexa.Core.Definitions;

namespace Jexa.Core.Sites;

/// <summary>A piece of a text with holes: a literal, or the name of a field with its place.</summary>
public readonly record struct TextHole(string? Literal, Written? Field);
