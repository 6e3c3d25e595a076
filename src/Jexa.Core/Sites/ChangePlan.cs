using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>How the records of a kind are changed: what is read back, what is logged, where the visitor is redirected.</summary>
/// <param name="Reread">Reads one record by its stored key.</param>
/// <param name="Flag">The cell that says whether the row is visible; -1 if all rows are.</param>
/// <param name="Columns">All columns, as they are stored.</param>
/// <param name="Key">The key columns among them.</param>
/// <param name="Label">The label of the record.</param>
/// <param name="Id">Writes the key as it is in addresses; null if no page shows such a record.</param>
/// <param name="Then">Where a change leads; null if the record has no page of its own.</param>
/// <param name="Otherwise">Where a change leads if <paramref name="Then"/> is not possible, or the record is gone.</param>
/// <param name="Scopes">The sets of fields by which addresses name the record.</param>
public sealed record ChangePlan(
    SiteRecord Record,
    IPreparedQuery Reread,
    int Flag,
    IReadOnlyList<StoredColumn> Columns,
    IReadOnlyList<StoredColumn> Key,
    TextPlan Label,
    LinkPlan? Id,
    LinkPlan? Then,
    PlainLink Otherwise,
    IReadOnlyList<KeyScope> Scopes,
    IReadOnlyList<KeptField> Kept
)
{
    /// <summary>The columns by which addresses name the record.</summary>
    public IReadOnlySet<string> ScopeColumns { get; init; } = new HashSet<string>();
}
