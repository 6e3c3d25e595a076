namespace Jexa.Service.Management;

/// <summary>A source of the app file.</summary>
/// <param name="Connection">As the app file writes it, without values of variables.</param>
/// <param name="Reachable">Whether it answers at this moment.</param>
/// <param name="Milliseconds">The duration of the lightest request.</param>
/// <param name="Trouble">Why it does not answer; null if it does.</param>
/// <param name="Known">Whether its content is known: from now, or from when it last answered.</param>
/// <param name="Changes">Whether its records can be changed; null if that is not known.</param>
/// <param name="ReadOnlyBecause">Why they cannot, as the end of a sentence.</param>
/// <param name="Tables">Its tables and views.</param>
/// <param name="Pages">The number of pages that show its records, including those that wait for it.</param>
/// <param name="Waiting">The number of these that cannot be served before it has answered.</param>
/// <param name="Notes">What is wrong or doubtful in parts of it.</param>
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
