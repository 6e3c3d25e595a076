using Jexa.Core.Edits;

namespace Jexa.Core.Changes;

/// <summary>The result of reversing a change.</summary>
/// <param name="Change">The change that reversed it; null if it was not reversed.</param>
/// <param name="Refusal">Why it was not, as a sentence for the developer.</param>
public sealed record UndoResult(LoggedChange? Change, string? Refusal);
