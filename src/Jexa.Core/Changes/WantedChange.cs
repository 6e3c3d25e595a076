using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>A change to be made within a session.</summary>
/// <param name="Before">Every column as it was stored, in the order of the plan's; null for a new record.</param>
/// <param name="Token">Of the form, or made for the request.</param>
/// <param name="Digest">Of what was sent.</param>
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
