namespace Jexa.Service.Runs;

/// <summary>What is to be proved. What is left out is as the command of that name has it.</summary>
/// <param name="Means"><c>check</c>, <c>sweep</c>, <c>probe</c> or <c>audit</c>.</param>
/// <param name="Only">Only these pages, or records of a sweep; all if it is null or empty.</param>
/// <param name="Rate">The most rows of a sweep, or requests, a second.</param>
/// <param name="Seconds">It stops after this time.</param>
/// <param name="Fetch">A sweep asks this service for so many records, and compares what it shows with their rows.</param>
/// <param name="Resume">A sweep goes on where the last one was stopped.</param>
/// <param name="Url">The list of an audit; where a probe asks for the pages, if not at this service.</param>
/// <param name="Records">The most records that an audit follows.</param>
/// <param name="Headers">Headers of all requests of an audit, each <c>NAME: VALUE</c>. They are in no report.</param>
public sealed record ProofOrder(
    string Means,
    IReadOnlyList<string>? Only = null,
    int? Rate = null,
    int? Seconds = null,
    int? Fetch = null,
    bool Resume = false,
    string? Url = null,
    int? Records = null,
    IReadOnlyList<string>? Headers = null
);
