namespace Jexa.Service.Proof;

/// <summary>What was probed, and when.</summary>
/// <param name="Only">The pages that were asked for; empty for all.</param>
public sealed record ProbeSubject(string File, DateTimeOffset Started, double Seconds, IReadOnlySet<string> Only)
{
    /// <summary>The pages that were not probed, because it was stopped.</summary>
    public IReadOnlyList<string> Left { get; init; } = [];
}
