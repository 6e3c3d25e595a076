namespace Jexa.Core.Plans;

/// <summary>A column of the query's own table (0) or of one of its joins (1, 2, …).</summary>
public readonly record struct ColumnRef(int Table, string Name)
{
    /// <summary>A column of the table that the query reads, reached without a join.</summary>
    public static ColumnRef Own(string name) => new(0, name);
}
