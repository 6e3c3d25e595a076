namespace Jexa.Service.Management;

/// <summary>A source of the app file.</summary>
/// <param name="Connection">As the app file writes it: variables are not filled in.</param>
/// <param name="Reachable">Whether it answers at this moment.</param>
/// <param name="Milliseconds">How long it took to answer the lightest question.</param>
/// <param name="Trouble">Why it does not answer.</param>
/// <param name="Known">Whether what it holds is known: from now, or from when it last answered.</param>
/// <param name="Changes">Whether records in it can be changed; null if it is not known.</param>
/// <param name="ReadOnlyBecause">Why they cannot, as the rest of a sentence.</param>
/// <param name="Tables">What it holds.</param>
/// <param name="Pages">The pages that show its records; also those that wait for it.</param>
/// <param name="Waiting">How many of these cannot be served before it has said what it holds.</param>
/// <param name="Notes">What is wrong with parts of it, or doubtful.</param>
public sealed record SourceInfo(
    string Name,
    string Engine,
    string Connection,
    bool Reachable,
    double? Milliseconds,
    string? Trouble,
    bool Known,
    bool? Changes,
    string? ReadOnlyBecause,
    IReadOnlyList<SourceTableInfo> Tables,
    IReadOnlyList<string> Pages,
    int Waiting,
    IReadOnlyList<string> Notes
);
