namespace Jexa.Core.Edits;

/// <summary>What happened to a key, for visitors who still use it.</summary>
/// <param name="Scope">The record kind, and the fields by which an address names it.</param>
/// <param name="Key">The ID texts.</param>
/// <param name="To">The new ID texts; null if the record was added or deleted.</param>
public sealed record KeyEvent(string Scope, string Key, ChangeKind Kind, string? To);
