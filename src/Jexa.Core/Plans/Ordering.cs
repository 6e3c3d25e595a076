namespace Jexa.Core.Plans;

/// <summary>One step of an order.</summary>
public abstract record Ordering
{
    private Ordering() { }

    /// <summary>By a column.</summary>
    /// <param name="Empties">Where empty values come; null if there can be none.</param>
    public sealed record ByColumn(ColumnRef Column, bool Descending, EmptyPlace? Empties) : Ordering;

    /// <summary>First the rows that equal an argument, code unit by code unit, whatever the collation of the column.</summary>
    public sealed record ExactFirst(ColumnRef Column, int Argument) : Ordering;

    /// <summary>First the rows that meet the query's flag.</summary>
    public sealed record FlaggedFirst : Ordering;
}
