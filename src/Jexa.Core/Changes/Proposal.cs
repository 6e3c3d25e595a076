using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>A value to write into a field.</summary>
internal sealed record Proposal(FormEntry Entry, TypedValue Value);
