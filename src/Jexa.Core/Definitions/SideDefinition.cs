namespace Jexa.Core.Definitions;

/// <summary>A side list: the distinct values of a field, each with a link to its records.</summary>
/// <param name="To">The list that it links to; null if it is implied.</param>
public sealed record SideDefinition(Written By, Written? Part, Written? To, Written? Title, bool Descending);
