namespace Jexa.Core.Definitions;

/// <summary>One field that a list is ordered by.</summary>
public sealed record OrderDefinition(Written Field, bool Descending);
