namespace Jexa.Core.Edits;

/// <summary>A key event of a change that was made.</summary>
/// <param name="Change">The number of its change. Later changes have larger numbers.</param>
public sealed record LoggedKeyEvent(long Change, ChangeKind Kind, string? To);
