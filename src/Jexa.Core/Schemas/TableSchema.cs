namespace Jexa.Core.Schemas;

/// <summary>A table or view: its columns, the column sets that are unique, and its foreign keys.</summary>
/// <param name="PrimaryKey">Column names in key order; empty if there is none.</param>
/// <param name="UniqueKeys">
/// Every set of columns that the source keeps unique, including the primary key. Partial indexes do not count.
/// </param>
public sealed record TableSchema(
    string Name,
    TableKind Kind,
    IReadOnlyList<ColumnSchema> Columns,
    IReadOnlyList<string> PrimaryKey,
    IReadOnlyList<IReadOnlyList<string>> UniqueKeys,
    IReadOnlyList<ForeignKeySchema> ForeignKeys
)
{
    private const long LargeTable = 50_000;

    /// <summary>The first column of each index, unique or not.</summary>
    public IReadOnlyCollection<string> IndexedFirst { get; init; } = [];

    /// <summary>The approximate number of rows, if the source can tell it at once; null if it cannot.</summary>
    public long? AboutRows { get; init; }

    /// <summary>
    /// Whether reading the whole table takes long. Pages then do not wait for anything but the record or the rows that they are
    /// about.
    /// </summary>
    public bool IsLarge => AboutRows > LargeTable;

    /// <summary>Why its rows have no key unless the app file names one, as a sentence; null if there is nothing to say.</summary>
    public string? KeyAdvice { get; init; }

    /// <summary>
    /// For columns that were taken for a key and are not unique: which values occur more than once, and where, as the end of a
    /// sentence.
    /// </summary>
    public IReadOnlyDictionary<string, string> Doubles { get; init; } = new Dictionary<string, string>();

    /// <summary>Whether its rows can be listed, not only read one by one by their key.</summary>
    public bool CanList { get; init; } = true;

    /// <summary>What the database user may do with its rows, as far as the source tells.</summary>
    public RowActs May { get; init; } = RowActs.All;

    /// <summary>
    /// Whether only the declared rules decide what a new row looks like. Then it is enough to name its columns.
    /// </summary>
    public bool IsWritable => Kind == TableKind.Table;

    /// <summary>The column of this name, compared letter by letter. Null if there is none.</summary>
    public ColumnSchema? Find(string name) => Columns.FirstOrDefault(column => column.Name == name);

    /// <summary>
    /// Whether an index begins with one of these columns, so that rows are found without reading the whole table.
    /// </summary>
    public bool IsIndexed(IReadOnlyCollection<string> columns) =>
        UniqueKeys.Any(key => columns.Contains(key[0])) || IndexedFirst.Any(columns.Contains);

    /// <summary>Whether the source guarantees that at most one row has given values in these columns.</summary>
    public bool IsUnique(IReadOnlyCollection<string> columns) => UniqueKeys.Any(key => key.All(columns.Contains));
}
