namespace Jexa.Core.Edits;

/// <summary>A value that can be chosen.</summary>
/// <param name="Value">Its canonical text.</param>
public sealed record FieldChoice(string Value, string Label);
