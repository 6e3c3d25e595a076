namespace Jexa.Service.Proof;

/// <summary>A finding of any means. Its text never depends on how many there are, so that a report can be compared with the next.
/// </summary>
/// <param name="About">What tells it from others of its code: names of pages, records, fields and links; never values.</param>
/// <param name="Count">How often it was met.</param>
/// <param name="Sure"><c>certain</c> or <c>likely</c>.</param>
/// <param name="Query">The query that finds all such rows, or those of the examples; null for none.</param>
public sealed record ProofFinding(
    string Code,
    string Severity,
    string Title,
    string File,
    int Line,
    int Column,
    string? Page,
    string About,
    string Message,
    string Remedy,
    long Count,
    string Sure,
    IReadOnlyList<ProofExample> Examples,
    string? Query
)
{
    /// <summary>What the file has there; null for nothing.</summary>
    public string? Found { get; init; }

    /// <summary>What it could have there.</summary>
    public string? Expected { get; init; }

    /// <summary>The valid word that is most similar, if there is one.</summary>
    public string? Nearest { get; init; }

    /// <summary>Whether an earlier report has it: a build does not fail for it.</summary>
    public bool IsKnown { get; init; }

    /// <summary>What it is known by in another report.</summary>
    internal (string Code, string About) Identity => (Code, About);
}
