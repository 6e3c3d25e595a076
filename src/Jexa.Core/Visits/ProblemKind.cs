namespace Jexa.Core.Visits;

/// <summary>How a page tells a program that it could not do what was asked: problem details (RFC 9457) of one status.</summary>
/// <param name="Name">Its name in the OpenAPI document.</param>
/// <param name="Means">A sentence or two, for whoever reads that document.</param>
public sealed record ProblemKind(int Status, string Name, string Means)
{
    /// <summary>400: the ID is not given or cannot be read.</summary>
    public static ProblemKind BadAddress { get; } =
        new(400, "BadAddress", "The address is not one of this page's: a parameter is absent, or is no value of its type.");

    /// <summary>403: it was sent from a page of another origin.</summary>
    public static ProblemKind Untrusted { get; } =
        new(403, "Untrusted", "It was sent from a page of another origin that may not write.");

    /// <summary>404: there is no such record or page, or it may not be seen.</summary>
    public static ProblemKind Unknown { get; } = new(404, "Unknown", "There is no such record, or it may not be seen.");

    /// <summary>409: the source or a rule refuses the change.</summary>
    public static ProblemKind Refused { get; } =
        new(409, "Refused", "A rule of the source forbids the change. Nothing was changed.");

    /// <summary>410: the record was deleted.</summary>
    public static ProblemKind Gone { get; } = new(410, "Gone", "The record was deleted.");

    /// <summary>412: the record has changed since the version that the program names.</summary>
    public static ProblemKind Conflict { get; } =
        new(412, "Conflict", "The record has changed since the version that If-Match names. Nothing was changed.");

    /// <summary>413: the body is larger than the limit.</summary>
    public static ProblemKind TooLarge { get; } = new(413, "TooLarge", "The body is too large.");

    /// <summary>415: the body is of another media type.</summary>
    public static ProblemKind OtherType { get; } = new(415, "OtherType", "The body is of another media type.");

    /// <summary>422: a value cannot be taken.</summary>
    public static ProblemKind Invalid { get; } =
        new(422, "Invalid", "Some fields are wrong; all of them are told. Nothing was changed.");

    /// <summary>428: a change needs <c>If-Match</c>.</summary>
    public static ProblemKind WhichVersion { get; } = new(428, "WhichVersion", "If-Match is missing.");

    /// <summary>500: something went wrong.</summary>
    public static ProblemKind Failed { get; } = new(500, "Failed", "Two records answer to the ID, or something went wrong.");

    /// <summary>503: a source or Jexa cannot answer now.</summary>
    public static ProblemKind Unavailable { get; } =
        new(503, "Unavailable", "The source is away or too slow; Retry-After says when to try again.");

    /// <summary>All kinds, by their status.</summary>
    public static IReadOnlyList<ProblemKind> All =>
        [.. OutcomeKind.All.SelectMany(outcome => outcome.Problems).Distinct().OrderBy(problem => problem.Status)];

    /// <summary>The words of the outcomes that are told so.</summary>
    public IReadOnlyList<string> Outcomes =>
        [.. OutcomeKind.All.Where(outcome => outcome.Problems.Contains(this)).Select(outcome => outcome.PublicWord).Distinct()];
}
