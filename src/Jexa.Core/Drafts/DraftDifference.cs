namespace Jexa.Core.Drafts;

/// <summary>One difference between an app file and its source.</summary>
/// <param name="Kind"><c>new</c>, <c>gone</c> or <c>different</c>.</param>
public sealed record DraftDifference(string Kind, string What, string Sentence);
