namespace Jexa.Core.Plans;

/// <summary>
/// One bounded query over one record kind: what every engine compiles in its own way. Immutable; made once by the
/// compiler and run by many visits with different arguments.
/// </summary>
/// <param name="Where">All of these hold for each row besides.</param>
/// <param name="Flag">Where not null, one more column at the end of each row: 1 if all of these hold, else 0.</param>
/// <param name="Limit">The most rows to read.</param>
/// <param name="CountLimit">
/// Where not null, one more column at the end of each row: how many rows satisfy the conditions, counting no further than this.
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
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];

    /// <summary>Cells in each row of the result.</summary>
    public int Width => Columns.Count + (Flag is null ? 0 : 1) + (CountLimit is null ? 0 : 1);

    /// <summary>What each cell is called: the column, behind its table's name where it is a joined one.</summary>
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
