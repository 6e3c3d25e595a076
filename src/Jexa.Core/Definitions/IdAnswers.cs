namespace Jexa.Core.Definitions;

/// <summary>A page's own answers to IDs that lead to no record.</summary>
/// <param name="MissingPage">The page to redirect people to if the ID is missing; null for the record's list.</param>
/// <param name="MissingStatus">400 or 404 for a missing ID without a redirect.</param>
public sealed record IdAnswers(Written? MissingPage, int? MissingStatus, int MalformedStatus)
{
    /// <summary>The answers if the app file says nothing: 400 for a malformed ID.</summary>
    public static IdAnswers Default { get; } = new(null, null, 400);
}
