namespace Jexa.Core.Plans;

/// <summary>
/// The distinct values of a column with how many rows have each: columns of one row of each group, then the count. In the
/// order of the values, empty ones last.
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
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}
