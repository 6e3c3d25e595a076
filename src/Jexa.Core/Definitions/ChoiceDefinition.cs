namespace Jexa.Core.Definitions;

public sealed record ChoiceDefinition(Written Value, Written Label);
