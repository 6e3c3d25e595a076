namespace Jexa.Core.Plans;

/// <summary>One step of an order.</summary>
public abstract record Ordering
{
    private Ordering() { }

    /// <summary>By a column.</summary>
    /// <param name="Empties">Where rows without a value come; null if there can be none.</param>
    public sealed record ByColumn(ColumnRef Column, bool Descending, EmptyPlace? Empties) : Ordering;

    /// <summary>Rows that equal an argument code unit by code unit first, whatever the column's collation.</summary>
    public sealed record ExactFirst(ColumnRef Column, int Argument) : Ordering;

    /// <summary>Rows that meet the query's flag first.</summary>
    public sealed record FlaggedFirst : Ordering;
}
