namespace Jexa.Service.Management;

/// <summary>What a tried query came to.</summary>
/// <param name="Fault">What is wrong with the query; null if nothing is.</param>
/// <param name="Parameters">The names of its parameters.</param>
/// <param name="Columns">Its columns.</param>
/// <param name="Types">The types of the columns, in the same order.</param>
/// <param name="Rows">Its first rows as texts; an empty value is null, and one that looks like a secret is veiled.</param>
/// <param name="HasMore">Whether there are further rows.</param>
/// <param name="Milliseconds">How long the source took for the rows.</param>
/// <param name="Plan">How the source runs it; null if it was not run.</param>
public sealed record QueryTrialInfo(
    string? Fault,
    IReadOnlyList<string> Parameters,
    IReadOnlyList<string> Columns,
    IReadOnlyList<string> Types,
    IReadOnlyList<IReadOnlyList<string?>> Rows,
    bool HasMore,
    double Milliseconds,
    QueryPlanInfo? Plan
);
