namespace Jexa.Core.Definitions;

/// <summary>A parameter, and the field that fills it or that it means.</summary>
public sealed record PassDefinition(Written Parameter, Written Field);
