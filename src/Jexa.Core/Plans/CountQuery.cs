namespace Jexa.Core.Plans;

/// <summary>
/// Counts the rows that meet the conditions, but not beyond <paramref name="Limit"/>. Returns one row with one integer.
/// </summary>
public sealed record CountQuery(RecordRows Rows, IReadOnlyList<Join> Joins, IReadOnlyList<Condition> Where, int Limit)
{
    /// <summary>The table, view or query that is counted.</summary>
    public RowOrigin Table => Rows.Origin;

    /// <summary>All conditions on the rows.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}
