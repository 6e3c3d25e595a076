namespace Jexa.Core.Plans;

/// <summary>A change of one row. Every engine writes it in its own way, with typed parameters.</summary>
public abstract record RecordWrite(string Table)
{
    /// <summary>Adds a row. The source fills the columns that are not named.</summary>
    /// <param name="Returning">The key columns to return.</param>
    public sealed record Insert(string Table, IReadOnlyList<ColumnValue> Values, IReadOnlyList<string> Returning)
        : RecordWrite(Table);

    /// <summary>Changes the row with these values, as they are stored.</summary>
    public sealed record Update(string Table, IReadOnlyList<ColumnValue> Key, IReadOnlyList<ColumnValue> Values)
        : RecordWrite(Table);

    /// <summary>Deletes the row with these values, as they are stored.</summary>
    public sealed record Delete(string Table, IReadOnlyList<ColumnValue> Key) : RecordWrite(Table);
}
