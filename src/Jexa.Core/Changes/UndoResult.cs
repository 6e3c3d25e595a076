using Jexa.Core.Edits;

namespace Jexa.Core.Changes;

/// <summary>How taking a change back ended.</summary>
/// <param name="Change">The change that took it back; null if it was not taken back.</param>
/// <param name="Refusal">Why not, as a sentence for the developer.</param>
public sealed record UndoResult(LoggedChange? Change, string? Refusal);
