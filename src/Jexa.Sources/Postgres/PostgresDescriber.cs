using System.Data;
using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Sources.Sql;
using Npgsql;

namespace Jexa.Sources.Postgres;

/// <summary>
/// Reads what a PostgreSQL database declares, in six queries. Tables on the search path have their bare names, others their
/// schema's name before it.
/// </summary>
internal static partial class PostgresDescriber
{
    private const string Relations = """
        SELECT c.oid, n.nspname, c.relname, c.relkind, greatest(c.reltuples, 0)::int8, pg_table_is_visible(c.oid),
          c.relkind = 'v' OR has_any_column_privilege(c.oid, 'SELECT'),
          has_any_column_privilege(c.oid, 'INSERT'), has_any_column_privilege(c.oid, 'UPDATE'), has_table_privilege(c.oid,
            'DELETE')
        FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
        WHERE c.relkind IN ('r', 'p', 'v', 'm', 'f') AND NOT c.relispartition AND n.nspname NOT LIKE 'pg\_%'
          AND n.nspname <> 'information_schema'
          AND has_schema_privilege(n.oid, 'USAGE') AND c.relname <> 'jexa_commit'
        ORDER BY pg_table_is_visible(c.oid) DESC, n.nspname, c.relname
        """;

    private const string Columns = """
        SELECT a.attrelid, a.attnum, a.attname, format_type(a.atttypid, a.atttypmod), format_type(a.atttypid, NULL),
          coalesce(b.typname, t.typname),
          coalesce(b.typtype, t.typtype), coalesce(b.typcategory, t.typcategory), a.attnotnull OR t.typnotnull,
            pg_get_expr(d.adbin, d.adrelid), a.attidentity, a.attgenerated,
          CASE WHEN t.typtype = 'd' THEN t.typtypmod ELSE a.atttypmod END, coalesce(co.collisdeterministic, true),
            coalesce(co.collname IN ('C', 'POSIX')
            OR (co.collname = 'default' AND (SELECT datcollate IN ('C', 'POSIX') FROM pg_database
              WHERE datname = current_database())), false),
          CASE WHEN coalesce(b.typtype, t.typtype) = 'e' THEN coalesce(b.oid, t.oid) END, CASE WHEN t.typtype = 'd'
            THEN t.oid END, has_column_privilege(a.attrelid, a.attnum, 'SELECT')
        FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid JOIN pg_namespace n ON n.oid = c.relnamespace
          JOIN pg_type t ON t.oid = a.atttypid
          LEFT JOIN pg_type b ON t.typtype = 'd' AND b.oid = t.typbasetype LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid
            AND d.adnum = a.attnum
          LEFT JOIN pg_collation co ON co.oid = a.attcollation
        WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p', 'v', 'm', 'f') AND NOT c.relispartition
          AND n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'
        ORDER BY a.attrelid, a.attnum
        """;

    private const string Constraints = """
        SELECT k.conrelid, k.contype, array_to_string(k.conkey, ','), k.confrelid, array_to_string(k.confkey, ','), k.confdeltype,
          CASE WHEN k.contype = 'c' THEN pg_get_constraintdef(k.oid) END, k.conname, k.contypid
        FROM pg_constraint k JOIN pg_namespace n ON n.oid = k.connamespace
        WHERE n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema' AND k.contype IN ('p', 'u', 'f', 'c')
          AND k.conparentid = 0
        ORDER BY k.conrelid, k.contype, k.conname
        """;

    private const string Indexes = """
        SELECT i.indrelid, i.indisunique, array_to_string(i.indkey[0:i.indnkeyatts - 1], ','), i.indpred IS NULL
          AND i.indimmediate
        FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace
        WHERE i.indisvalid AND n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'
        ORDER BY i.indrelid, i.indexrelid
        """;

    private const string Words = "SELECT enumtypid, enumlabel FROM pg_enum ORDER BY enumtypid, enumsortorder";

    /// <summary>Whether the server is a standby; whether our table exists and can be written, or could be created.</summary>
    private const string Server = """
        SELECT pg_is_in_recovery(), CASE WHEN to_regclass('jexa_commit') IS NULL
          THEN coalesce(has_schema_privilege(current_schema(), 'CREATE'), false)
          ELSE has_table_privilege('jexa_commit', 'SELECT') AND has_table_privilege('jexa_commit', 'INSERT') END, current_user
        """;

    public static async ValueTask<(SourceSchema Schema, NativeSchema Native, PostgresRules Rules)> DescribeAsync(
        ServerConnection connection,
        CancellationToken cancellation
    )
    {
        var server = (await connection.AskAsync(Server, cancellation))[0];
        var found = (await connection.AskAsync(Relations, cancellation)).ToLookup(row => row[6] == "True");
        var catalog = new Catalog(
            [.. found[true]],
            (await connection.AskAsync(Columns, cancellation)).ToLookup(row => row[0]!),
            await connection.AskAsync(Constraints, cancellation),
            (await connection.AskAsync(Indexes, cancellation)).ToLookup(row => row[0]!),
            (await connection.AskAsync(Words, cancellation)).ToLookup(row => row[0]!, row => row[1]!)
        );
        var tables = catalog.Relations.Select(row => Table(catalog, row)).ToList();
        var schema = new SourceSchema([.. tables.Select(table => table.Schema)])
        {
            ReadOnlyBecause = server[0] == "True" ? "the server is a standby, which only reads" : null,
            TakesNotes = server[1] == "True",
            MostCells = 1664,
            Unreadable = found[false]
                .ToDictionary(NameOf, row => $"GRANT SELECT ON {Quoted(row)} TO {PostgresText.Quote(server[2]!)}."),
        };
        return (schema, new NativeSchema(tables.ToDictionary(table => table.Schema.Name)), new PostgresRules(Rules(catalog)));
    }

    /// <summary>The rows that the queries above return.</summary>
    private sealed record Catalog(
        IReadOnlyList<string?[]> Relations,
        ILookup<string, string?[]> Columns,
        IReadOnlyList<string?[]> Constraints,
        ILookup<string, string?[]> Indexes,
        ILookup<string, string> Words
    )
    {
        /// <summary>The names of tables by their object IDs.</summary>
        public Dictionary<string, string> Names { get; } = Relations.ToDictionary(row => row[0]!, NameOf);

        /// <summary>The names of each table's columns by their numbers.</summary>
        public Dictionary<string, Dictionary<string, string>> ColumnNames { get; } =
            Columns.ToDictionary(group => group.Key, group => group.ToDictionary(row => row[1]!, row => row[2]!));

        public ILookup<string, string?[]> OfTable { get; } = Constraints.ToLookup(row => row[0]!);

        public ILookup<string, string?[]> OfDomain { get; } =
            Constraints.Where(row => row[8] is not (null or "0")).ToLookup(row => row[8]!);
    }

    /// <summary>A table on the search path has its bare name.</summary>
    private static string NameOf(string?[] row) => row[5] == "True" ? row[2]! : $"{row[1]}.{row[2]}";

    private static string Quoted(string?[] row) => $"{PostgresText.Quote(row[1]!)}.{PostgresText.Quote(row[2]!)}";

    private static NativeTable Table(Catalog catalog, string?[] row)
    {
        var oid = row[0]!;
        var own = catalog.ColumnNames.GetValueOrDefault(oid) ?? [];
        var checks = catalog.OfTable[oid].Where(k => k[1] == "c").SelectMany(k => CheckReader.ReadOne(Plain(k[6]!))).ToList();
        List<NativeColumn> columns =
        [
            .. catalog
                .Columns[oid]
                .Where(column => column[17] == "True")
                .Select(column => Column(column, checks, catalog.Words, catalog.OfDomain, row[3] is "v" or "m")),
        ];
        var known = columns.Select(column => column.Column.Name).ToHashSet();
        var primary = catalog.OfTable[oid].FirstOrDefault(k => k[1] == "p") is { } key ? Named(key[2], own) : [];
        var table = new TableSchema(
            catalog.Names[oid],
            row[3] is "v" or "m" or "f" ? TableKind.View : TableKind.Table,
            [.. columns.Select(column => column.Column)],
            primary.TrueForAll(known.Contains) ? primary : [],
            UniqueOf(catalog.Indexes[oid], primary, own),
            ForeignKeysOf(catalog, oid, own)
        )
        {
            IndexedFirst = catalog
                .Indexes[oid]
                .Where(index => index[3] == "True")
                .Select(index => index[2]!.Split(',')[0])
                .Where(own.ContainsKey)
                .Select(number => own[number])
                .ToHashSet(),
            May =
                (row[7] == "True" ? RowActs.Insert : 0)
                | (row[8] == "True" ? RowActs.Update : 0)
                | (row[9] == "True" ? RowActs.Delete : 0),
            AboutRows = row[3] is "v" ? null : long.Parse(row[4]!, CultureInfo.InvariantCulture),
        };
        return new NativeTable(Quoted(row), table, columns);
    }

    private static List<IReadOnlyList<string>> UniqueOf(
        IEnumerable<string?[]> indexes,
        List<string> primary,
        Dictionary<string, string> columns
    )
    {
        var unique = new List<IReadOnlyList<string>>();
        if (primary.Count > 0)
            unique.Add(primary);
        foreach (
            var index in indexes.Where(index => index[1] == "True" && index[3] == "True" && !index[2]!.Split(',').Contains("0"))
        )
            if (Named(index[2], columns) is var set && !unique.Exists(other => other.SequenceEqual(set)))
                unique.Add(set);
        return unique;
    }

    private static List<ForeignKeySchema> ForeignKeysOf(Catalog catalog, string oid, Dictionary<string, string> columns) =>
        [
            .. catalog
                .OfTable[oid]
                .Where(k => k[1] == "f" && catalog.Names.ContainsKey(k[3]!))
                .Select(k => new ForeignKeySchema(
                    Named(k[2], columns),
                    catalog.Names[k[3]!],
                    Named(k[4], catalog.ColumnNames[k[3]!])
                )
                {
                    OnDelete = k[5] switch
                    {
                        "c" => DeleteRule.Cascade,
                        "n" or "d" => DeleteRule.Release,
                        _ => DeleteRule.Refuse,
                    },
                }),
        ];

    private static Dictionary<(string, string), IReadOnlyList<string>> Rules(Catalog catalog)
    {
        var rules = new Dictionary<(string, string), IReadOnlyList<string>>();
        foreach (
            var k in catalog.Constraints.Where(k =>
                k[2] is not null && catalog.ColumnNames.ContainsKey(k[0]!) && catalog.Names.ContainsKey(k[0]!)
            )
        )
            rules[(catalog.Relations.First(row => row[0] == k[0])[2]!, k[7]!)] = Named(k[2], catalog.ColumnNames[k[0]!]);
        return rules;
    }

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
                await using var command = new NpgsqlCommand($"SELECT * FROM ({query}) AS q", (NpgsqlConnection)connection.Inner);
                await using var reader = await command.ExecuteReaderAsync(CommandBehavior.SchemaOnly, CancellationToken.None);
                return
                [
                    .. (await reader.GetColumnSchemaAsync(CancellationToken.None))
                        .Cast<Npgsql.Schema.NpgsqlDbColumn>()
                        .Select(column =>
                        {
                            var type = column.PostgresType is Npgsql.PostgresTypes.PostgresDomainType domain
                                ? domain.BaseType.Name
                                : column.PostgresType.Name;
                            var kind = Kind(
                                Internal(type),
                                column.PostgresType is Npgsql.PostgresTypes.PostgresEnumType ? "e" : "b"
                            );
                            return new NativeColumn(
                                new ColumnSchema(
                                    column.ColumnName,
                                    column.DataTypeName,
                                    kind.Field(),
                                    true,
                                    null,
                                    true,
                                    type == "citext"
                                ),
                                kind,
                                column.DataTypeName
                            )
                            {
                                IsPadded = type is "character" or "bpchar",
                            };
                        }),
                ];
            },
            cancellation
        );

    private static NativeColumn Column(
        string?[] row,
        List<ColumnCheck> checks,
        ILookup<string, string> words,
        ILookup<string, string?[]> ofDomain,
        bool isView
    )
    {
        var (name, type, bare, typeName) = (row[2]!, row[3]!, row[4]!, row[5]!);
        var kind = Kind(typeName, row[6]!);
        var (identity, generated) = (row[10] is "a" or "d", row[11] == "s");
        var automatic = isView || identity || generated || row[9]?.StartsWith("nextval(", StringComparison.Ordinal) == true;
        var folds = typeName == "citext" || row[13] != "True";
        var (least, most) = typeName switch
        {
            "int2" => (short.MinValue, short.MaxValue),
            "int4" => (int.MinValue, int.MaxValue),
            _ => (long.MinValue, long.MaxValue),
        };
        var column = new ColumnSchema(
            name,
            type,
            kind.Field(),
            isView || row[8] != "True",
            automatic ? null : Default(row[9]),
            automatic,
            folds
        )
        {
            Min = least,
            Max = most,
        };
        if (row[16] is { } domain)
            checks = [.. checks, .. OfDomain(ofDomain[domain], name)];
        var rules = CheckReader.RulesOf(column with { DeclaredType = "" }, checks);
        return new NativeColumn(column with { Rules = WithType(rules, row, words) }, kind, bare)
        {
            IsPadded = typeName == "bpchar",
            IsOrdinal = kind == NativeKind.Text && row[14] == "True" && !folds,
        };
    }

    /// <summary>The checks of a domain, as checks of a column.</summary>
    private static IEnumerable<ColumnCheck> OfDomain(IEnumerable<string?[]> checks, string column) =>
        checks
            .SelectMany(check => CheckReader.ReadOne(Plain(check[6]!)))
            .Where(check => check.Column.Equals("VALUE", StringComparison.OrdinalIgnoreCase))
            .Select(check => check with { Column = column });

    /// <summary>The rules of a column, with those that its type makes.</summary>
    private static ColumnRules WithType(ColumnRules rules, string?[] row, ILookup<string, string> words)
    {
        var typeName = row[5]!;
        var modifier = int.Parse(row[12]!, CultureInfo.InvariantCulture);
        return rules with
        {
            OneOf = row[15] is { } list ? [.. words[list]] : rules.OneOf,
            MaxLength =
                typeName is "varchar" or "bpchar" && modifier > 4
                    ? Math.Min(modifier - 4, rules.MaxLength ?? int.MaxValue)
                    : rules.MaxLength,
            Precision = typeName == "numeric" && modifier > 4 ? ((modifier - 4) >> 16) & 0xffff : null,
            Scale = typeName == "numeric" && modifier > 4 ? (modifier - 4) & 0x7ff : null,
        };
    }

    private static NativeKind Kind(string typeName, string typeType) =>
        typeType is not "b"
            ? NativeKind.Other
            : typeName switch
            {
                "int2" or "int4" or "int8" => NativeKind.Integer,
                "numeric" => NativeKind.Decimal,
                "float4" or "float8" => NativeKind.Real,
                "text" or "varchar" or "bpchar" or "citext" => NativeKind.Text,
                "bool" => NativeKind.Boolean,
                "date" => NativeKind.Date,
                "timestamp" => NativeKind.Timestamp,
                "timestamptz" => NativeKind.Moment,
                "uuid" => NativeKind.Uuid,
                "bytea" => NativeKind.Bytes,
                _ => NativeKind.Other,
            };

    /// <summary>The catalog's name of a type that the driver names in SQL.</summary>
    private static string Internal(string type) =>
        type switch
        {
            "smallint" => "int2",
            "integer" => "int4",
            "bigint" => "int8",
            "real" => "float4",
            "double precision" => "float8",
            "character varying" => "varchar",
            "character" => "bpchar",
            "boolean" => "bool",
            "timestamp without time zone" => "timestamp",
            "timestamp with time zone" => "timestamptz",
            _ => type,
        };

    private static List<string> Named(string? numbers, Dictionary<string, string> names) =>
        numbers is null ? [] : [.. numbers.Split(',').Where(names.ContainsKey).Select(number => names[number])];

    /// <summary>A default without the casts that PostgreSQL adds.</summary>
    private static string? Default(string? text) =>
        text is null
            ? null
            : Casts().Replace(text, "") switch
            {
                "now()" or "CURRENT_TIMESTAMP" or "LOCALTIMESTAMP" or "statement_timestamp()" => "CURRENT_TIMESTAMP",
                "CURRENT_DATE" or "('now')" => "CURRENT_DATE",
                var plain when plain.StartsWith("NULL", StringComparison.OrdinalIgnoreCase) => null,
                var plain => Number().Replace(plain, "$1"),
            };

    /// <summary>A check as a person would have written it: without casts, lists as IN, no needless parentheses.</summary>
    private static string Plain(string definition)
    {
        var text = definition.StartsWith("CHECK ", StringComparison.Ordinal) ? definition[6..] : definition;
        text = Casts().Replace(text, "");
        text = AnyOf().Replace(text, match => $" IN ({match.Groups[1].Value}{match.Groups[2].Value})");
        text = Number().Replace(text, "$1");
        return Name().Replace(text, "$1");
    }

    [GeneratedRegex(
        @"::(?:""[^""]+""|[a-z_][\w.]*)(?: (?:precision|varying|with(?:out)? time zone))?(?:\(\d+(?:,\s*\d+)?\))?(?:\[\])*"
    )]
    private static partial Regex Casts();

    [GeneratedRegex(@" = ANY (?:\(\(ARRAY\[([^\]]*)\]\)\)|\(ARRAY\[([^\]]*)\]\))")]
    private static partial Regex AnyOf();

    [GeneratedRegex(@"(?<![\w""])\((-?\d+(?:\.\d+)?)\)")]
    private static partial Regex Number();

    [GeneratedRegex(@"(?<![\w""])\((""[^""]+""|[A-Za-z_]\w*)\)")]
    private static partial Regex Name();
}
