namespace Jexa.Core.Plans;

/// <summary>
/// One change of one row: what every engine writes in its own way, its values as typed parameters. A closed set.
/// </summary>
public abstract record RecordWrite(string Table)
{
    /// <summary>Adds a row; columns that are not named are left to the source.</summary>
    /// <param name="Returning">The columns of the new row's key, which come back.</param>
    public sealed record Insert(string Table, IReadOnlyList<ColumnValue> Values, IReadOnlyList<string> Returning)
        : RecordWrite(Table);

    /// <summary>Changes the row that has these values, as they are stored.</summary>
    public sealed record Update(string Table, IReadOnlyList<ColumnValue> Key, IReadOnlyList<ColumnValue> Values)
        : RecordWrite(Table);

    /// <summary>Removes the row that has these values, as they are stored.</summary>
    public sealed record Delete(string Table, IReadOnlyList<ColumnValue> Key) : RecordWrite(Table);
}
