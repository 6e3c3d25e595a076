namespace Jexa.Core.Definitions;

public sealed record OrderDefinition(Written Field, bool Descending);
