namespace Jexa.Core.Changes;

/// <summary>The choices for a field of a form.</summary>
/// <param name="IsMore">Whether there are more: search by a part of the label.</param>
public sealed record FieldChoices(IReadOnlyList<(string Value, string Label)> Choices, bool IsMore);
