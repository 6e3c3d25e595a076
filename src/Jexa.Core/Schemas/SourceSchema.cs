using Jexa.Core.Values;

namespace Jexa.Core.Schemas;

/// <summary>What a source says it holds, at one moment. Names compare ordinally, as the source spells them.</summary>
public sealed record SourceSchema(IReadOnlyList<TableSchema> Tables)
{
    /// <summary>Why nothing can be written, as the rest of a sentence; null where something can.</summary>
    public string? ReadOnlyBecause { get; init; }

    /// <summary>
    /// Whether our own table (<c>jexa_commit</c>) is there and can be used, or could be made, as far as the source tells.
    /// </summary>
    public bool TakesNotes { get; init; } = true;

    /// <summary>What is wrong with parts of it, or doubtful; the rest can be used all the same.</summary>
    public IReadOnlyList<SourceNote> Notes { get; init; } = [];

    /// <summary>Tables and views that are there and may not be read, each with the remedy as a sentence.</summary>
    public IReadOnlyDictionary<string, string> Unreadable { get; init; } = new Dictionary<string, string>();

    public TableSchema? Find(string name) => Tables.FirstOrDefault(table => table.Name == name);
}

/// <summary>Something a source says of itself: a whole sentence with its place.</summary>
/// <param name="IsFault">Whether something cannot be used for it.</param>
/// <param name="Remedy">What to do, as a sentence.</param>
public sealed record SourceNote(string Sentence, string Remedy, bool IsFault);

/// <summary>What may be done to rows of a table.</summary>
[Flags]
public enum RowActs
{
    None = 0,
    Insert = 1,
    Update = 2,
    Delete = 4,
    All = Insert | Update | Delete,
}

public enum TableKind
{
    Table,
    View,
}

/// <summary>
/// A table or view: its columns, the sets of columns that tell its rows apart, and where its foreign keys lead.
/// </summary>
/// <param name="PrimaryKey">Column names in key order; empty where there is none.</param>
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

    /// <summary>How many rows there are, as near as the source can tell at once; null where it cannot.</summary>
    public long? AboutRows { get; init; }

    /// <summary>
    /// Whether reading all of it takes so long that no page waits for what is not the record or the rows it is about.
    /// </summary>
    public bool IsLarge => AboutRows > LargeTable;

    /// <summary>Why a row has no key unless the app file names one, as a sentence; null where nothing is to be said.</summary>
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

/// <summary>A column as its source declares it.</summary>
/// <param name="DeclaredType">The type as it is written in the source; empty where nothing is declared.</param>
/// <param name="Nullable">Whether a row may have no value here.</param>
/// <param name="Default">The default as the source writes it, or null.</param>
/// <param name="Automatic">Whether the source fills it by itself (an automatic key, a computed column).</param>
/// <param name="FoldsCase">Whether the column's collation may find a row under another spelling.</param>
public sealed record ColumnSchema(
    string Name,
    string DeclaredType,
    FieldType Type,
    bool Nullable,
    string? Default,
    bool Automatic,
    bool FoldsCase
)
{
    /// <summary>The least whole number the column's type can hold.</summary>
    public long Min { get; init; } = long.MinValue;

    /// <summary>The greatest whole number the column's type can hold.</summary>
    public long Max { get; init; } = long.MaxValue;

    /// <summary>What a value must satisfy besides its type, as far as the source says it in a way that can be read.</summary>
    public ColumnRules Rules { get; init; } = ColumnRules.None;
}

/// <summary>What the source's own rules say of one column's values.</summary>
/// <param name="OneOf">The only values there may be, as their texts; null where there are others.</param>
/// <param name="Least">The least number.</param>
/// <param name="Most">The greatest number.</param>
/// <param name="MaxLength">The most characters of a text.</param>
/// <param name="Precision">The most digits of a decimal.</param>
/// <param name="Scale">Its most digits behind the point.</param>
public sealed record ColumnRules(
    IReadOnlyList<string>? OneOf,
    decimal? Least,
    decimal? Most,
    int? MaxLength,
    int? Precision,
    int? Scale
)
{
    public static ColumnRules None { get; } = new(null, null, null, null, null, null);
}

/// <summary>A foreign key: columns here, and the columns of the other table they must be found in.</summary>
public sealed record ForeignKeySchema(IReadOnlyList<string> Columns, string Table, IReadOnlyList<string> References)
{
    /// <summary>What becomes of the rows that hold it when the row it leads to is deleted.</summary>
    public DeleteRule OnDelete { get; init; }
}

/// <summary>What a deleted row does to those that refer to it.</summary>
public enum DeleteRule
{
    /// <summary>As long as there are any it cannot be deleted.</summary>
    Refuse,

    /// <summary>They are deleted with it.</summary>
    Cascade,

    /// <summary>They stay, and refer to nothing any more, or to a default.</summary>
    Release,
}

/// <summary>What a query of the developer's own gives.</summary>
/// <param name="Parameters">The names of its parameters, without the sign before them.</param>
/// <param name="Fault">Why it cannot be used, as a sentence; null where it can.</param>
public sealed record QuerySchema(IReadOnlyList<ColumnSchema> Columns, IReadOnlyList<string> Parameters, string? Fault);
