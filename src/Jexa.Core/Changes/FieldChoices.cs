namespace Jexa.Core.Changes;

/// <summary>What a field of a form can be.</summary>
/// <param name="IsMore">There are more than are told: ask for a part of their label.</param>
public sealed record FieldChoices(IReadOnlyList<(string Value, string Label)> Choices, bool IsMore);
