using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>One way in which an app file and its source have come apart.</summary>
/// <param name="Kind"><c>new</c>, <c>gone</c> or <c>different</c>.</param>
public sealed record DraftDifference(string Kind, string What, string Sentence);
