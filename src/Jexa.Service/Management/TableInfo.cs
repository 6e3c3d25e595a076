namespace Jexa.Service.Management;

/// <summary>A table or view of a source, with its first rows.</summary>
/// <param name="UniqueKeys">The sets of columns that the source keeps unique.</param>
/// <param name="IndexedFirst">The columns that an index begins with.</param>
/// <param name="Records">The record kinds of the app file over it, with their pages.</param>
/// <param name="Trouble">Why its rows cannot be read; null if they can.</param>
public sealed record TableInfo(
    string Source,
    string Name,
    string Kind,
    long? AboutRows,
    IReadOnlyList<TableColumnInfo> Columns,
    IReadOnlyList<IReadOnlyList<string>> UniqueKeys,
    IReadOnlyList<string> IndexedFirst,
    IReadOnlyList<RecordPagesInfo> Records,
    IReadOnlyList<TableRowInfo> Rows,
    string? Trouble
);
