using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// How the records of a kind are changed: what is read back of them, what is noted, where their visitor is led.
/// </summary>
/// <param name="Reread">Reads one record by its key as it is stored.</param>
/// <param name="Flag">Where a row says whether it is visible; -1 where every row is.</param>
/// <param name="Columns">Every column, as it is stored.</param>
/// <param name="Key">Which of the columns make the key.</param>
/// <param name="Label">What the record is called.</param>
/// <param name="Id">Writes the key as it stands in addresses; null if no page shows one.</param>
/// <param name="Then">Where a change leads; null if there is no page of the record's own to lead to.</param>
/// <param name="Otherwise">Where it leads if that cannot be, or the record is gone.</param>
/// <param name="Scopes">What its addresses name it by.</param>
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
    /// <summary>The columns that addresses name the record by.</summary>
    public IReadOnlySet<string> ScopeColumns { get; init; } = new HashSet<string>();
}
