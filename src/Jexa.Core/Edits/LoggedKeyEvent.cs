namespace Jexa.Core.Edits;

/// <summary>A key event that came about.</summary>
/// <param name="Change">The number of its change: later changes have larger ones.</param>
public sealed record LoggedKeyEvent(long Change, ChangeKind Kind, string? To);
