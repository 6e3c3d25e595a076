namespace Jexa.Core.Definitions;

/// <summary>One value that a field may have, and the words shown for it.</summary>
public sealed record ChoiceDefinition(Written Value, Written Label);
