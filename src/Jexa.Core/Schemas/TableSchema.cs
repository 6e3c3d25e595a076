namespace Jexa.Core.Schemas;

/// <summary>
/// A table or view: its columns, the sets of columns that tell its rows apart, and where its foreign keys lead.
/// </summary>
/// <param name="PrimaryKey">Column names in key order; empty if there is none.</param>
/// <param name="UniqueKeys">Every set of columns the source keeps unique, the primary key among them; partial indexes are
/// not.</param>
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

    /// <summary>The columns that an index begins with, unique or not.</summary>
    public IReadOnlyCollection<string> IndexedFirst { get; init; } = [];

    /// <summary>How many rows there are, as near as the source can tell at once; null if it cannot.</summary>
    public long? AboutRows { get; init; }

    /// <summary>
    /// Whether reading all of it takes so long that no page waits for what is not the record or the rows it is about.
    /// </summary>
    public bool IsLarge => AboutRows > LargeTable;

    /// <summary>Why a row has no key unless the app file names one, as a sentence; null if nothing is to be said.</summary>
    public string? KeyAdvice { get; init; }

    /// <summary>
    /// Of columns that were taken for a key and are none: which values stand where more than once, as the rest of a sentence.
    /// </summary>
    public IReadOnlyDictionary<string, string> Doubles { get; init; } = new Dictionary<string, string>();

    /// <summary>Whether its rows can be read one after the other, not only each by its key.</summary>
    public bool CanList { get; init; } = true;

    /// <summary>What the source lets whoever is connected do, as far as it tells.</summary>
    public RowActs May { get; init; } = RowActs.All;

    /// <summary>
    /// Whether nothing in the source but its rules decides what a row is made of: whoever adds a row names no more than its
    /// columns.
    /// </summary>
    public bool IsWritable => Kind == TableKind.Table;

    public ColumnSchema? Find(string name) => Columns.FirstOrDefault(column => column.Name == name);

    /// <summary>Whether an index begins with one of these columns, so that rows are found by them without reading all.</summary>
    public bool IsIndexed(IReadOnlyCollection<string> columns) =>
        UniqueKeys.Any(key => columns.Contains(key[0])) || IndexedFirst.Any(columns.Contains);

    /// <summary>Whether the source lets at most one row have given values in these columns.</summary>
    public bool IsUnique(IReadOnlyCollection<string> columns) => UniqueKeys.Any(key => key.All(columns.Contains));
}
