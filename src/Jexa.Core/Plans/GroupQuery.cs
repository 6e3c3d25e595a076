namespace Jexa.Core.Plans;

/// <summary>
/// The distinct values of a column, and the number of rows for each. A row has the columns of one row of the group, then the
/// count. The order is that of the values; empty values come last.
/// </summary>
public sealed record GroupQuery(
    RecordRows Rows,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<Projection> Columns,
    IReadOnlyList<Condition> Where,
    ColumnRef By,
    GroupPart Part,
    bool Descending,
    int Limit
)
{
    /// <summary>The table, view or query that is grouped.</summary>
    public RowOrigin Table => Rows.Origin;

    /// <summary>All conditions on the rows.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}
