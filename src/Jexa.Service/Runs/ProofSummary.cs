using Jexa.Service.Proof;

namespace Jexa.Service.Runs;

/// <summary>A line of the history of proofs.</summary>
/// <param name="Gaps">What was not looked at, though nobody asked for that.</param>
public sealed record ProofSummary(
    int Number,
    string Means,
    string Subject,
    DateTimeOffset Started,
    double Seconds,
    int Errors,
    int Warnings,
    int Hints,
    int Gaps
)
{
    public static ProofSummary Of(int number, ProofReport report) =>
        new(
            number,
            report.Means,
            report.Subject,
            report.Started,
            report.Seconds,
            report.Findings.Count(finding => finding.Severity == "error"),
            report.Findings.Count(finding => finding.Severity == "warning"),
            report.Findings.Count(finding => finding.Severity == "hint"),
            report.NotSeen.Count(gap => !gap.IsChosen)
        );
}
