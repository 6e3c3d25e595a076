using Jexa.Core.Definitions;

namespace Jexa.Core.Proof;

/// <summary>One thing that is wrong, however often: with data, or with what a running service answers.</summary>
/// <param name="At">The place in the app file that it is about.</param>
/// <param name="About">What tells it from others of its code: names of pages, records, fields and links; never values.</param>
/// <param name="Message">The cause, as a sentence.</param>
/// <param name="Remedy">What to do, as a sentence.</param>
/// <param name="Count">How often it was met.</param>
/// <param name="Query">The query that finds all such rows, or those of the examples; null if no query can.</param>
public sealed record Fault(
    FindingCode Code,
    Place At,
    string About,
    string Message,
    string Remedy,
    long Count,
    IReadOnlyList<FaultExample> Examples,
    string? Query
);
