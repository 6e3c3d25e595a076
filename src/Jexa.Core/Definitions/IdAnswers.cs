namespace Jexa.Core.Definitions;

/// <summary>A page's own answers for IDs that lead to no record.</summary>
/// <param name="MissingPage">The page that a person is led to when the ID is missing; null for the record's list.</param>
/// <param name="MissingStatus">400 or 404 where a missing ID leads nowhere else.</param>
public sealed record IdAnswers(Written? MissingPage, int? MissingStatus, int MalformedStatus)
{
    public static IdAnswers Default { get; } = new(null, null, 400);
}
