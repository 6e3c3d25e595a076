namespace Jexa.Core.Edits;

/// <summary>What became of a key, for those who still come by it.</summary>
/// <param name="Scope">The record kind and the fields that an address names it by.</param>
/// <param name="Key">The ID texts.</param>
/// <param name="To">The ID texts it has now; null if the record was added or deleted.</param>
public sealed record KeyEvent(string Scope, string Key, ChangeKind Kind, string? To);
