namespace Jexa.Core.Plans;

/// <summary>
/// How many rows satisfy the conditions, counting no further than <paramref name="Limit"/>. One row, one integer.
/// </summary>
public sealed record CountQuery(RecordRows Rows, IReadOnlyList<Join> Joins, IReadOnlyList<Condition> Where, int Limit)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}
