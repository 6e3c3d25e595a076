namespace Jexa.Core.Proof;

/// <summary>What a sweep is doing.</summary>
/// <param name="Part">The part that is being read.</param>
/// <param name="Rows">The rows read so far, of all parts.</param>
public readonly record struct SweepProgress(string Part, long Rows);
