using Jexa.Core.Schemas;
using Jexa.Core.Values;
using Jexa.Sources.Sql;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// Reads what a SQLite file declares. SQLite is loosely typed: a declared type says what a column should hold, not what it holds.
/// So readers of keys check the storage class.
/// </summary>
internal static class SqliteDescriber
{
    public static SourceSchema Describe(SqliteReader connection)
    {
        var tables = connection.Ask(
            "SELECT name, type, wr FROM pragma_table_list WHERE schema = 'main' AND type <> 'shadow' AND "
                + "name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name <> 'jexa_commit' ORDER BY name"
        );
        List<TableSchema> described = [.. tables.Select(row => Table(connection, row[0]!, row[1] == "view", row[2] == "1"))];
        return new SourceSchema(described)
        {
            Notes = [.. described.SelectMany(table => Misfits(table, described))],
            MostCells = 2000,
        };
    }

    /// <summary>Foreign keys that SQLite accepts in a declaration, but then refuses every change because of them.</summary>
    private static IEnumerable<SourceNote> Misfits(TableSchema table, List<TableSchema> tables)
    {
        foreach (var key in table.ForeignKeys)
        {
            var parent = tables.Find(one => one.Name.Equals(key.Table, StringComparison.OrdinalIgnoreCase));
            var columns = string.Join(", ", key.References);
            if (parent is null)
                yield return new SourceNote(
                    $"A foreign key of {table.Name} leads to {key.Table}, which is not there: SQLite refuses to add "
                        + $"or change rows of {table.Name}.",
                    "Correct the foreign key in the source.",
                    true
                );
            else if (
                parent.UniqueKeys.All(unique => !unique.ToHashSet(StringComparer.OrdinalIgnoreCase).SetEquals(key.References))
            )
                yield return new SourceNote(
                    $"A foreign key of {table.Name} leads to {parent.Name} ({columns}), which nothing keeps unique: "
                        + "SQLite refuses changes of both tables.",
                    $"Add a unique index of {parent.Name} on {columns}, or correct the foreign key in the source.",
                    true
                );
        }
    }

    private static TableSchema Table(SqliteReader connection, string name, bool view, bool withoutRowId)
    {
        List<string?[]> info;
        try
        {
            info = connection.Ask("SELECT name, type, \"notnull\", dflt_value, pk, hidden FROM pragma_table_xinfo(?1)", name);
        }
        catch (Core.Sources.SourceException) when (view)
        {
            // A view over something that no longer exists has no columns. A record over it gets a finding.
            info = [];
        }

        // Hidden 1 is an internal column of a virtual table; 2 and 3 are computed columns.
        var shown = info.Where(column => column[5] != "1").ToList();
        var primaryKey = shown
            .Where(column => column[4] != "0")
            .OrderBy(column => int.Parse(column[4]!))
            .Select(column => column[0]!)
            .ToList();
        var indexes = view ? [] : connection.Ask("SELECT name, \"unique\", partial, origin FROM pragma_index_list(?1)", name);
        var rowId = RowIdColumn(shown, primaryKey, indexes);
        var unique = UniqueKeys(connection, indexes, primaryKey, rowId);
        return new TableSchema(
            name,
            view ? TableKind.View : TableKind.Table,
            Ruled(
                connection,
                name,
                [
                    .. shown.Select(column =>
                        Column(
                            column,
                            primaryKey,
                            rowId,
                            withoutRowId,
                            view || connection.CollationOf(name, column[0]!) != "BINARY"
                        )
                    ),
                ]
            ),
            primaryKey,
            unique,
            view ? [] : ForeignKeys(connection, name)
        )
        {
            IndexedFirst = FirstColumns(connection, indexes, rowId),
            AboutRows = view || withoutRowId ? null : AboutRows(connection, name),
        };
    }

    /// <summary>The columns with what the table's checks and declared types say about their values.</summary>
    private static ColumnSchema[] Ruled(SqliteReader connection, string table, ColumnSchema[] columns)
    {
        var text = connection.Ask("SELECT sql FROM sqlite_schema WHERE name = ?1 AND type = 'table'", table) is [[{ } sql]]
            ? sql
            : "";
        var checks = CheckReader.Read(text);
        return [.. columns.Select(column => column with { Rules = CheckReader.RulesOf(column, checks) })];
    }

    private static HashSet<string> FirstColumns(SqliteReader connection, List<string?[]> indexes, string? rowId)
    {
        var first = indexes
            .Where(index => index[2] == "0")
            .Select(index =>
                connection.Ask("SELECT name FROM pragma_index_info(?1) WHERE seqno = 0", index[0]!) is [[{ } name]] ? name : null
            )
            .OfType<string>()
            .ToHashSet();
        if (rowId is not null)
            first.Add(rowId);
        return first;
    }

    /// <summary>The largest row ID: the number of rows or more, unless somebody chose the numbers.</summary>
    private static long? AboutRows(SqliteReader connection, string table)
    {
        try
        {
            return
                connection.Ask($"SELECT max(_rowid_) FROM \"{table.Replace("\"", "\"\"")}\"") is [[{ } most]]
                && long.TryParse(most, out var rows)
                ? rows
                : null;
        }
        catch (Core.Sources.SourceException)
        {
            // A virtual table may have no row IDs.
            return null;
        }
    }

    /// <summary>A column of a query. Computed columns declare no type, and may be empty.</summary>
    public static ColumnSchema QueryColumn(string name, string declared) =>
        new(name, declared, Type(declared), Nullable: true, Default: null, Automatic: true, FoldsCase: true);

    /// <param name="folds">
    /// Whether it may compare otherwise than code unit by code unit. For columns of a view this is not known.
    /// </param>
    private static ColumnSchema Column(string?[] info, List<string> primaryKey, string? rowId, bool withoutRowId, bool folds)
    {
        var name = info[0]!;
        var declared = info[1] ?? "";
        // A primary key that is not the row ID may hold NULL, unless the table is WITHOUT ROWID: an old bug that SQLite keeps.
        var nullable = info[2] == "0" && name != rowId && !(withoutRowId && primaryKey.Contains(name));
        var automatic = name == rowId || info[5] is "2" or "3";
        return new ColumnSchema(name, declared, Type(declared), nullable, info[3], automatic, folds);
    }

    /// <summary>
    /// Only a single column declared exactly <c>INTEGER PRIMARY KEY</c> (any case, not DESC) is the row ID. It has no index.
    /// </summary>
    private static string? RowIdColumn(List<string?[]> columns, List<string> primaryKey, List<string?[]> indexes)
    {
        if (primaryKey is not [var only] || indexes.Exists(index => index[3] == "pk"))
            return null;
        return columns.Exists(column =>
            column[0] == only && string.Equals(column[1], "INTEGER", StringComparison.OrdinalIgnoreCase)
        )
            ? only
            : null;
    }

    private static List<IReadOnlyList<string>> UniqueKeys(
        SqliteReader connection,
        List<string?[]> indexes,
        List<string> primaryKey,
        string? rowId
    )
    {
        var unique = new List<IReadOnlyList<string>>();
        if (primaryKey.Count > 0 && (rowId is not null || indexes.Exists(index => index[3] == "pk")))
            unique.Add(primaryKey);
        foreach (var index in indexes.Where(index => index[1] == "1" && index[2] == "0" && index[3] != "pk"))
        {
            var columns = connection.Ask("SELECT name FROM pragma_index_info(?1) ORDER BY seqno", index[0]!);

            // A null name is an expression: the index keeps that unique, not a column.
            if (columns.TrueForAll(column => column[0] is not null))
                unique.Add([.. columns.Select(column => column[0]!)]);
        }

        return unique;
    }

    private static List<ForeignKeySchema> ForeignKeys(SqliteReader connection, string table)
    {
        var rows = connection.Ask(
            "SELECT id, \"table\", \"from\", \"to\", on_delete FROM pragma_foreign_key_list(?1) ORDER BY id, seq",
            table
        );
        var keys = new List<ForeignKeySchema>();
        foreach (var group in rows.GroupBy(row => row[0]))
        {
            var to = group.Select(row => row[3]).ToList();
            var parent = group.First()[1]!;

            // Without named columns, a foreign key refers to the parent's primary key.
            if (to.Contains(null))
                to =
                [
                    .. connection
                        .Ask("SELECT name FROM pragma_table_info(?1) WHERE pk > 0 ORDER BY pk", parent)
                        .Select(row => row[0]),
                ];
            if (to.Count == group.Count())
                keys.Add(
                    new ForeignKeySchema([.. group.Select(row => row[2]!)], parent, [.. to.Select(name => name!)])
                    {
                        OnDelete = group.First()[4] switch
                        {
                            "CASCADE" => DeleteRule.Cascade,
                            "SET NULL" or "SET DEFAULT" => DeleteRule.Release,
                            _ => DeleteRule.Refuse,
                        },
                    }
                );
        }

        return keys;
    }

    /// <summary>The field type for a declared type, by SQLite's rules of affinity and usual type names.</summary>
    private static FieldType Type(string declared)
    {
        var type = declared.ToUpperInvariant();
        if (type.Length == 0)
            return FieldType.Any;
        if (type.Contains("BOOL"))
            return FieldType.Boolean;
        if (type.Contains("UUID") || type.Contains("GUID"))
            return FieldType.Uuid;
        if (type.StartsWith("TIMESTAMP", StringComparison.Ordinal) || type.StartsWith("DATETIME", StringComparison.Ordinal))
            return FieldType.Timestamp;
        if (type.StartsWith("DATE", StringComparison.Ordinal))
            return FieldType.Date;
        if (type.Contains("INT"))
            return FieldType.Integer;
        if (type.Contains("CHAR") || type.Contains("CLOB") || type.Contains("TEXT") || type == "JSON")
            return FieldType.Text;
        if (type.Contains("BLOB"))
            return FieldType.Bytes;
        if (type.Contains("REAL") || type.Contains("FLOA") || type.Contains("DOUB"))
            return FieldType.Real;
        return type.Contains("DEC") || type.Contains("NUM") ? FieldType.Decimal : FieldType.Any;
    }
}
