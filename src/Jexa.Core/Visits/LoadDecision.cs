namespace Jexa.Core.Visits;

/// <param name="Row">The row that was found; -1 for none.</param>
/// <param name="Why">For the developer.</param>
internal readonly record struct LoadDecision(Outcome Outcome, int Row, string Why);
