using Jexa.Core.Values;

namespace Jexa.Core.Schemas;

/// <summary>What a source says it holds, at one moment. Names compare ordinally, as the source spells them.</summary>
public sealed record SourceSchema(IReadOnlyList<TableSchema> Tables)
{
    public TableSchema? Find(string name) => Tables.FirstOrDefault(table => table.Name == name);
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
/// <param name="UniqueKeys">Every set of columns the source keeps unique, the primary key among them; partial indexes are not.</param>
public sealed record TableSchema(
    string Name,
    TableKind Kind,
    IReadOnlyList<ColumnSchema> Columns,
    IReadOnlyList<string> PrimaryKey,
    IReadOnlyList<IReadOnlyList<string>> UniqueKeys,
    IReadOnlyList<ForeignKeySchema> ForeignKeys)
{
    /// <summary>The columns that an index begins with, unique or not.</summary>
    public IReadOnlyCollection<string> IndexedFirst { get; init; } = [];

    /// <summary>How many rows there are, as near as the source can tell at once; null where it cannot.</summary>
    public long? AboutRows { get; init; }

    public ColumnSchema? Find(string name) => Columns.FirstOrDefault(column => column.Name == name);

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
    bool FoldsCase)
{
    /// <summary>The least whole number the column's type can hold.</summary>
    public long Min { get; init; } = long.MinValue;

    /// <summary>The greatest whole number the column's type can hold.</summary>
    public long Max { get; init; } = long.MaxValue;
}

/// <summary>A foreign key: columns here, and the columns of the other table they must be found in.</summary>
public sealed record ForeignKeySchema(IReadOnlyList<string> Columns, string Table, IReadOnlyList<string> References);

/// <summary>What a query of the developer's own gives.</summary>
/// <param name="Parameters">The names of its parameters, without the sign before them.</param>
/// <param name="Fault">Why it cannot be used, as a sentence; null where it can.</param>
public sealed record QuerySchema(IReadOnlyList<ColumnSchema> Columns, IReadOnlyList<string> Parameters, string? Fault);
