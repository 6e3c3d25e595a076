namespace Jexa.Service.Proof;

/// <summary>What a check, sweep, probe or audit has found and seen. All forms of a report are written from it.</summary>
/// <param name="Means">What was done: <c>check</c>, <c>sweep</c>, <c>probe</c> or <c>audit</c>.</param>
/// <param name="Subject">What it was done to: an app file, or an address.</param>
/// <param name="Seconds">How long it took.</param>
/// <param name="Seen">How much was looked at.</param>
/// <param name="NotSeen">What was not looked at, or not to its end, and why.</param>
/// <param name="Board">Pages and cases; null if there are none.</param>
public sealed record ProofReport(
    string Means,
    string Subject,
    string Version,
    DateTimeOffset Started,
    double Seconds,
    IReadOnlyList<ProofFigure> Seen,
    IReadOnlyList<ProofGap> NotSeen,
    IReadOnlyList<ProofFinding> Findings,
    ProofBoard? Board
)
{
    /// <summary>What was looked at, part by part.</summary>
    public IReadOnlyList<ProofFigure> Parts { get; init; } = [];

    /// <summary>How it compares with an earlier report; null if there is none.</summary>
    public ProofChange? Change { get; init; }

    /// <summary>Whether something was found that a build should fail for. Hints are not, and neither is what was known.</summary>
    public bool Fails => Findings.Any(finding => finding.Severity != "hint" && !finding.IsKnown);
}
