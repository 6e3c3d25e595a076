namespace Jexa.Core.Definitions;

/// <summary>A named parameter of a query. A page's parameter of the same name fills it, else the default.</summary>
public sealed record QueryParameterDefinition(Written Name, Written Type, Written? Default);
