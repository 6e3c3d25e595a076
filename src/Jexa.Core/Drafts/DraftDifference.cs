namespace Jexa.Core.Drafts;

/// <summary>One way in which an app file and its source have come apart.</summary>
/// <param name="Kind"><c>new</c>, <c>gone</c> or <c>different</c>.</param>
public sealed record DraftDifference(string Kind, string What, string Sentence);
