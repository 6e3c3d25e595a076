namespace Jexa.Core.Proof;

/// <summary>What a sweep has found, and how much it has seen.</summary>
/// <param name="Parts">The rows read of each part.</param>
/// <param name="NotRead">What was not read, or not to its end, and why; whether that was asked for.</param>
/// <param name="Links">The links that were built, matched and read back.</param>
/// <param name="Lookups">The records that links lead to and that were looked for.</param>
public sealed record SweepResult(
    IReadOnlyList<Fault> Faults,
    IReadOnlyList<(string Part, long Rows)> Parts,
    IReadOnlyList<(string Part, string Why, bool IsChosen)> NotRead,
    long Links,
    long Lookups
)
{
    /// <summary>The records that were chosen to be asked for from the running service.</summary>
    public IReadOnlyList<SampledRecord> Sample { get; init; } = [];
}
