using System.Data;
using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Sources.Sql;
using MySqlConnector;

namespace Jexa.Sources.MariaDb;

/// <summary>Reads what a MariaDB database declares, in six queries.</summary>
internal static partial class MariaDbDescriber
{
    private const string Relations = """
        SELECT TABLE_NAME, TABLE_TYPE, TABLE_ROWS FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE()
          AND TABLE_NAME <> 'jexa_commit'
          AND TABLE_TYPE IN ('BASE TABLE', 'VIEW', 'SYSTEM VERSIONED') ORDER BY TABLE_NAME
        """;

    private const string Columns = """
        SELECT TABLE_NAME, COLUMN_NAME, COLUMN_TYPE, DATA_TYPE, IS_NULLABLE, COLUMN_DEFAULT, EXTRA, COLLATION_NAME,
          CHARACTER_MAXIMUM_LENGTH, NUMERIC_PRECISION, NUMERIC_SCALE, GENERATION_EXPRESSION IS NOT NULL, PRIVILEGES
        FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() ORDER BY TABLE_NAME, ORDINAL_POSITION
        """;

    private const string Indexes = """
        SELECT TABLE_NAME, INDEX_NAME, NON_UNIQUE, COLUMN_NAME, SUB_PART FROM information_schema.STATISTICS
          WHERE TABLE_SCHEMA = DATABASE() ORDER BY TABLE_NAME, INDEX_NAME = 'PRIMARY' DESC, INDEX_NAME, SEQ_IN_INDEX
        """;

    private const string ForeignKeys = """
        SELECT k.TABLE_NAME, k.CONSTRAINT_NAME, k.COLUMN_NAME, k.REFERENCED_TABLE_NAME, k.REFERENCED_COLUMN_NAME, r.DELETE_RULE
        FROM information_schema.KEY_COLUMN_USAGE k JOIN information_schema.REFERENTIAL_CONSTRAINTS r
          ON r.CONSTRAINT_SCHEMA = k.CONSTRAINT_SCHEMA AND r.TABLE_NAME = k.TABLE_NAME AND r.CONSTRAINT_NAME = k.CONSTRAINT_NAME
        WHERE k.TABLE_SCHEMA = DATABASE() AND k.REFERENCED_TABLE_SCHEMA = DATABASE() ORDER BY k.TABLE_NAME, k.CONSTRAINT_NAME,
          k.ORDINAL_POSITION
        """;

    /// <summary>
    /// The privileges on everything and on this database, in words; whether a role may add some; whether the server is read-only.
    /// </summary>
    private const string Grants = """
        SELECT group_concat(PRIVILEGE_TYPE), CURRENT_ROLE() IS NOT NULL, @@read_only, CURRENT_USER(),
          (SELECT count(*) FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = 'jexa_commit'
            AND COLUMN_NAME = 'token' AND PRIVILEGES LIKE '%select%insert%'),
          (SELECT group_concat(TABLE_NAME SEPARATOR '/') FROM information_schema.TABLE_PRIVILEGES
            WHERE TABLE_SCHEMA = DATABASE() AND PRIVILEGE_TYPE = 'DELETE')
        FROM (SELECT PRIVILEGE_TYPE FROM information_schema.USER_PRIVILEGES UNION SELECT PRIVILEGE_TYPE
          FROM information_schema.SCHEMA_PRIVILEGES WHERE DATABASE() LIKE TABLE_SCHEMA) AS granted
        """;

    private const string Checks =
        "SELECT TABLE_NAME, CONSTRAINT_NAME, CHECK_CLAUSE FROM information_schema.CHECK_CONSTRAINTS "
        + "WHERE CONSTRAINT_SCHEMA = DATABASE()";

    public static async ValueTask<(SourceSchema Schema, NativeSchema Native)> DescribeAsync(
        ServerConnection connection,
        CancellationToken cancellation
    )
    {
        var catalog = new Catalog(
            await connection.AskAsync(Relations, cancellation),
            (await connection.AskAsync(Columns, cancellation)).ToLookup(row => row[0]!),
            (await connection.AskAsync(Indexes, cancellation)).ToLookup(row => row[0]!),
            (await connection.AskAsync(ForeignKeys, cancellation)).ToLookup(row => row[0]!),
            (await connection.AskAsync(Checks, cancellation)).ToLookup(row => row[0]!),
            (await connection.AskAsync(Grants, cancellation))[0]
        );
        var tables = catalog.Relations.Select(row => Table(catalog, row)).OfType<NativeTable>().ToList();
        var schema = new SourceSchema([.. tables.Select(table => table.Schema)])
        {
            ReadOnlyBecause =
                catalog.Grants[2] is "1" or "ON"
                && !catalog.Granted.Contains("READ_ONLY ADMIN")
                && !catalog.Granted.Contains("READ ONLY ADMIN")
                    ? "the server only reads (read_only)"
                    : null,
            TakesNotes = catalog.HasRole || catalog.Granted.Contains("CREATE") || catalog.Grants[4] != "0",
            Unreadable = catalog
                .Relations.Select(row => row[0]!)
                .Except(tables.Select(table => table.Schema.Name))
                .ToDictionary(name => name, name => $"GRANT SELECT ON {MariaDbText.Quote(name)} TO {catalog.Grants[3]}."),
        };
        var native = new NativeSchema(tables.ToDictionary(table => table.Schema.Name)) { KeyColumns = KeyColumns(catalog) };
        return (schema, native);
    }

    /// <summary>The rows that the queries above return.</summary>
    private sealed record Catalog(
        IReadOnlyList<string?[]> Relations,
        ILookup<string, string?[]> Columns,
        ILookup<string, string?[]> Indexes,
        ILookup<string, string?[]> ForeignKeys,
        ILookup<string, string?[]> Checks,
        string?[] Grants
    )
    {
        /// <summary>The privileges on everything and on this database.</summary>
        public HashSet<string> Granted { get; } = [.. (Grants[0] ?? "").Split(',')];

        /// <summary>Whether a role may add privileges that are not known here.</summary>
        public bool HasRole => Grants[1] == "1";

        /// <summary>Tables whose rows may be deleted.</summary>
        public HashSet<string> Deleted { get; } = [.. (Grants[5] ?? "").Split('/')];

        public HashSet<string> Names { get; } = [.. Relations.Select(row => row[0]!)];
    }

    /// <summary>A table or view; null for a table without a column that may be read.</summary>
    private static NativeTable? Table(Catalog catalog, string?[] row)
    {
        var name = row[0]!;
        var isView = row[1] == "VIEW";
        var own = catalog.Checks[name].SelectMany(check => CheckReader.ReadOne(Plain(check[2]!))).ToList();
        List<NativeColumn> columns =
        [
            .. catalog
                .Columns[name]
                .Where(column => column[12]!.Contains("select", StringComparison.OrdinalIgnoreCase))
                .Select(column => Column(column, own, isView)),
        ];
        if (columns.Count == 0 && !isView)
            return null;
        var keys = catalog.Indexes[name].GroupBy(index => index[1]!).ToList();
        var unique = keys.Where(key => key.First()[2] == "0" && key.All(index => index[4] is null && index[3] is not null))
            .Select(key => (IReadOnlyList<string>)[.. key.Select(index => index[3]!)])
            .ToList();
        var table = new TableSchema(
            name,
            isView ? TableKind.View : TableKind.Table,
            [.. columns.Select(column => column.Column)],
            [.. keys.FirstOrDefault(key => key.Key == "PRIMARY")?.Select(index => index[3]!) ?? []],
            unique,
            ForeignKeysOf(catalog, name)
        )
        {
            IndexedFirst = keys.Select(key => key.First()[3]).OfType<string>().ToHashSet(),
            May = ActsOn(catalog, name),
            AboutRows = !isView && long.TryParse(row[2], out var rows) ? rows : null,
        };
        return new NativeTable(MariaDbText.Quote(name), table, columns);
    }

    private static List<ForeignKeySchema> ForeignKeysOf(Catalog catalog, string table) =>
        [
            .. catalog
                .ForeignKeys[table]
                .GroupBy(key => key[1])
                .Where(key => catalog.Names.Contains(key.First()[3]!))
                .Select(key => new ForeignKeySchema(
                    [.. key.Select(part => part[2]!)],
                    key.First()[3]!,
                    [.. key.Select(part => part[4]!)]
                )
                {
                    OnDelete = key.First()[5] switch
                    {
                        "CASCADE" => DeleteRule.Cascade,
                        "SET NULL" or "SET DEFAULT" => DeleteRule.Release,
                        _ => DeleteRule.Refuse,
                    },
                }),
        ];

    private static RowActs ActsOn(Catalog catalog, string table)
    {
        return (May("insert") ? RowActs.Insert : 0)
            | (May("update") ? RowActs.Update : 0)
            | (catalog.HasRole || catalog.Granted.Contains("DELETE") || catalog.Deleted.Contains(table) ? RowActs.Delete : 0);

        bool May(string act) =>
            catalog.Columns[table].Any(column => column[12]!.Contains(act, StringComparison.OrdinalIgnoreCase));
    }

    private static Dictionary<string, IReadOnlyList<string>> KeyColumns(Catalog catalog) =>
        catalog
            .Indexes.SelectMany(group => group.Select(index => (Key: index[1]!, Column: index[3])))
            .Where(pair => pair.Column is not null && pair.Key != "PRIMARY")
            .GroupBy(pair => pair.Key)
            .ToDictionary(group => group.Key, group => (IReadOnlyList<string>)[.. group.Select(pair => pair.Column!).Distinct()]);

    /// <summary>The columns of a query, without running it.</summary>
    public static ValueTask<IReadOnlyList<NativeColumn>> DescribeQueryAsync(
        ServerConnection connection,
        string query,
        CancellationToken cancellation
    ) =>
        connection.DoAsync<IReadOnlyList<NativeColumn>>(
            async () =>
            {
                // Inside another query, only a query with a result is valid.
                await using var command = new MySqlCommand(
                    $"SELECT * FROM ({query}) AS q LIMIT 0",
                    (MySqlConnection)connection.Inner
                );
                await using var reader = await command.ExecuteReaderAsync(CancellationToken.None);
                return
                [
                    .. reader
                        .GetColumnSchema()
                        .Select(column =>
                        {
                            var type = column.DataTypeName?.ToLowerInvariant() ?? "";
                            var kind = Kind(type, type);
                            return new NativeColumn(
                                new ColumnSchema(column.ColumnName, type, kind.Field(), true, null, true, FoldsCase: true),
                                kind,
                                type
                            );
                        }),
                ];
            },
            cancellation
        );

    private static NativeColumn Column(string?[] row, List<ColumnCheck> checks, bool isView)
    {
        var (name, type, data) = (row[1]!, row[2]!, row[3]!);
        var kind = Kind(data, type);
        var extra = row[6] ?? "";
        var automatic =
            isView
            || extra.Contains("auto_increment", StringComparison.Ordinal)
            || extra.Contains("GENERATED", StringComparison.OrdinalIgnoreCase)
            || row[11] == "1";
        var folds = row[7] is { } collation && !collation.EndsWith("_bin", StringComparison.Ordinal) && collation != "binary";
        var (least, most) = Range(data, type.Contains("unsigned", StringComparison.Ordinal));
        var column = new ColumnSchema(
            name,
            type,
            kind.Field(),
            isView || row[4] == "YES",
            automatic ? null : Default(row[5]),
            automatic,
            folds
        )
        {
            Min = least,
            Max = most,
        };
        var rules = CheckReader.RulesOf(column with { DeclaredType = "" }, checks);
        return new NativeColumn(column with { Rules = WithType(rules, row, kind) }, kind, data);
    }

    /// <summary>The rules of a column, with those that its type makes.</summary>
    private static ColumnRules WithType(ColumnRules rules, string?[] row, NativeKind kind)
    {
        var (type, data) = (row[2]!, row[3]!);
        var isLarge = data == "bigint" && kind == NativeKind.Decimal;
        return rules with
        {
            OneOf =
                data == "enum"
                    ? [.. Literals().Matches(type).Select(match => match.Groups[1].Value.Replace("''", "'"))]
                    : rules.OneOf,
            Least = isLarge ? rules.Least ?? 0 : rules.Least,
            Most = isLarge ? rules.Most ?? ulong.MaxValue : rules.Most,
            MaxLength =
                data is "char" or "varchar" && int.TryParse(row[8], out var length)
                    ? Math.Min(length, rules.MaxLength ?? int.MaxValue)
                    : rules.MaxLength,
            Precision =
                data == "decimal" ? int.Parse(row[9]!, CultureInfo.InvariantCulture)
                : kind == NativeKind.Decimal ? 20
                : null,
            Scale =
                data == "decimal" ? int.Parse(row[10]!, CultureInfo.InvariantCulture)
                : kind == NativeKind.Decimal ? 0
                : null,
        };
    }

    private static NativeKind Kind(string data, string type) =>
        data switch
        {
            "tinyint" when type.StartsWith("tinyint(1)", StringComparison.Ordinal) => NativeKind.Boolean,
            "bit" when type is "bit(1)" => NativeKind.Boolean,
            "bigint" when type.Contains("unsigned", StringComparison.Ordinal) => NativeKind.Decimal,
            "tinyint" or "smallint" or "mediumint" or "int" or "integer" or "bigint" or "year" or "bit" => NativeKind.Integer,
            "decimal" => NativeKind.Decimal,
            "float" or "double" => NativeKind.Real,
            "char" or "varchar" or "tinytext" or "text" or "mediumtext" or "longtext" => NativeKind.Text,
            "date" => NativeKind.Date,
            "datetime" => NativeKind.Timestamp,
            "timestamp" => NativeKind.Moment,
            "binary" or "varbinary" or "tinyblob" or "blob" or "mediumblob" or "longblob" => NativeKind.Bytes,
            "uuid" => NativeKind.Uuid,
            _ => NativeKind.Other,
        };

    private static (long Least, long Most) Range(string data, bool unsigned) =>
        data switch
        {
            "tinyint" => unsigned ? (0, byte.MaxValue) : (sbyte.MinValue, sbyte.MaxValue),
            "smallint" => unsigned ? (0, ushort.MaxValue) : (short.MinValue, short.MaxValue),
            "mediumint" => unsigned ? (0, 16_777_215) : (-8_388_608, 8_388_607),
            "int" => unsigned ? (0, uint.MaxValue) : (int.MinValue, int.MaxValue),
            "year" => (1901, 2155),
            "bit" => (0, long.MaxValue),
            _ => (long.MinValue, long.MaxValue),
        };

    private static string? Default(string? text) =>
        text?.ToLowerInvariant() switch
        {
            null or "null" => null,
            "current_timestamp()" or "now()" or "current_timestamp" => "CURRENT_TIMESTAMP",
            "curdate()" or "current_date()" => "CURRENT_DATE",
            _ => text,
        };

    /// <summary>A check as a person would have written it.</summary>
    private static string Plain(string clause) =>
        Introducers().Replace(clause, "'").Replace("char_length(", "length(", StringComparison.OrdinalIgnoreCase);

    /// <summary>The words before a text that name its character set.</summary>
    [GeneratedRegex("_(?:utf8mb4|utf8mb3|latin1|ascii)'")]
    private static partial Regex Introducers();

    [GeneratedRegex("'((?:[^']|'')*)'")]
    private static partial Regex Literals();
}
