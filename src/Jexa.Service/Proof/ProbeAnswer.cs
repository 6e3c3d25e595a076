namespace Jexa.Service.Proof;

/// <summary>An answer to a request of a probe.</summary>
/// <param name="How"><c>html</c>, <c>json</c>, <c>head</c>, <c>again</c> or a method.</param>
/// <param name="Request">The request as a line for curl.</param>
internal sealed record ProbeAnswer(string How, int Status, string Body, string Request)
{
    /// <summary>The outcome that the JSON tells; null for none.</summary>
    public string? Outcome { get; init; }

    public string? Title { get; init; }

    public string? Location { get; init; }

    public string? Tag { get; init; }

    public string? Allow { get; init; }

    /// <summary>The number of the visit.</summary>
    public string? Visit { get; init; }
}
