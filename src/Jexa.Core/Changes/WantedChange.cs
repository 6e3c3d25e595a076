using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>A change to be made within a session.</summary>
/// <param name="Before">The stored value of every column, in the order of the plan's columns; null for a new record.</param>
/// <param name="Token">The token of the form, or one made for the request.</param>
/// <param name="Digest">The digest of what was sent.</param>
internal sealed record WantedChange(
    ChangePlan Plan,
    string Page,
    ChangeKind Kind,
    RecordWrite Write,
    IReadOnlyList<TypedValue>? Before,
    string Token,
    string Digest,
    long? Undoes = null
);
