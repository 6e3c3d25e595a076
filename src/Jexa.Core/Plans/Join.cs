namespace Jexa.Core.Plans;

/// <summary>
/// Another table, joined by a foreign key; at most one row for each row. If there is no such row, or it does not meet the
/// conditions, its columns are empty.
/// </summary>
/// <param name="From">The table with the foreign key: 0 for the query's own table, else the number of an earlier join.</param>
/// <param name="On">Pairs of a column of that table and the joined table's column.</param>
/// <param name="Rows">The rows to join. Rows that a visitor may not see are not among them.</param>
public sealed record Join(int From, RecordRows Rows, IReadOnlyList<(string Own, string Other)> On)
{
    /// <summary>The table, view or query that is joined.</summary>
    public RowOrigin Table => Rows.Origin;

    /// <summary>Conditions on the joined row. Their columns belong to the joined table.</summary>
    public IReadOnlyList<Condition> Conditions => Rows.Visible;
}
