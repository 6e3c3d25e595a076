namespace Jexa.Core.Plans;

/// <summary>
/// A query over one record kind, with a limit. Every engine compiles it in its own way. It is immutable; the compiler makes it
/// once, and many visits run it with different arguments.
/// </summary>
/// <param name="Where">Further conditions on the rows.</param>
/// <param name="Flag">If not null, each row has one more column at the end: 1 if all of these conditions hold, else 0.</param>
/// <param name="Limit">The most rows to read.</param>
/// <param name="CountLimit">
/// If not null, each row has one more column at the end: the number of rows that meet the conditions, counted up to this limit.
/// </param>
public sealed record RecordQuery(
    RecordRows Rows,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<Projection> Columns,
    IReadOnlyList<Condition> Where,
    IReadOnlyList<Condition>? Flag,
    IReadOnlyList<Ordering> Order,
    int Limit,
    int? CountLimit = null
)
{
    /// <summary>The table, view or query that is read.</summary>
    public RowOrigin Table => Rows.Origin;

    /// <summary>All conditions on the rows.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];

    /// <summary>The number of cells in each row of the result.</summary>
    public int Width => Columns.Count + (Flag is null ? 0 : 1) + (CountLimit is null ? 0 : 1);

    /// <summary>The name of each cell: the column, after the name of its table if that is joined.</summary>
    public IReadOnlyList<string> CellNames =>
        [
            .. Columns.Select(projection =>
                projection.Column.Table == 0
                    ? projection.Column.Name
                    : $"{Joins[projection.Column.Table - 1].Table.Name}.{projection.Column.Name}"
            ),
            .. Flag is null ? [] : new[] { "(visible)" },
            .. CountLimit is null ? [] : new[] { "(count)" },
        ];
}
