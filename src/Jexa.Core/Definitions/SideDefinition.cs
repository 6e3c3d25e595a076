namespace Jexa.Core.Definitions;

/// <summary>A side list: the distinct values of a field, each leading to the records that have it.</summary>
/// <param name="To">The list it leads to; implied where left out.</param>
public sealed record SideDefinition(Written By, Written? Part, Written? To, Written? Title, bool Descending);
