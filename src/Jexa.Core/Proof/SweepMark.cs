using Jexa.Core.Values;

namespace Jexa.Core.Proof;

/// <summary>How far a sweep has come.</summary>
/// <param name="Done">The parts that were read to their end, with the number of their rows.</param>
/// <param name="Part">The part that is being read; null between two.</param>
/// <param name="Rows">The rows of that part that were read.</param>
/// <param name="Behind">The key of the last of them; null at the beginning.</param>
public sealed record SweepMark(
    IReadOnlyDictionary<string, long> Done,
    string? Part,
    long Rows,
    IReadOnlyList<TypedValue>? Behind,
    IReadOnlyList<Fault> Faults
)
{
    /// <summary>The beginning.</summary>
    public static SweepMark Start { get; } = new(new Dictionary<string, long>(), null, 0, null, []);
}
