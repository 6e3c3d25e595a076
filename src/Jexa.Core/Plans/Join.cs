namespace Jexa.Core.Plans;

/// <summary>
/// Another table whose row a foreign key leads to, at most one for each row; where none is found, or none that meets the
/// conditions, its columns are empty.
/// </summary>
/// <param name="From">The table that has the foreign key: 0 for the query's own, else an earlier join's number.</param>
/// <param name="On">Pairs of a column of that table and the joined table's column.</param>
/// <param name="Rows">What is joined: rows that may not be seen are not.</param>
public sealed record Join(int From, RecordRows Rows, IReadOnlyList<(string Own, string Other)> On)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>What the joined row must satisfy; their columns are its own.</summary>
    public IReadOnlyList<Condition> Conditions => Rows.Visible;
}
