using System.Globalization;
using System.Text;
using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// Writes the query model as SQLite's SQL. Names are quoted, values of a visit are numbered arguments; the only literals
/// are those that the app file wrote, typed and quoted here.
/// </summary>
internal static class SqliteText
{
    public static string Of(RecordQuery query) => Select(query, "");

    public static string Of(CountQuery query)
    {
        var sql = new StringBuilder("SELECT ");
        Count(query.Table, query.Joins, query.Where, query.Limit, sql);
        return sql.ToString();
    }

    /// <summary>SQLite reads the arms of a UNION ALL in their order and stops at the limit: arms behind one that has a row cost nothing.</summary>
    public static string Of(CombinedQuery query) => string.Join(" UNION ALL ", query.Searches.Select((search, i) =>
        $"SELECT * FROM ({string.Join(" UNION ALL ", search.Select(part => $"SELECT * FROM ({Select(part with { Limit = 1 }, $", {i}")})"))} LIMIT 1)"));

    public static string Of(GroupQuery query)
    {
        var by = Column(query.By);
        var group = query.Part switch
        {
            GroupPart.Year => $"CAST(substr({by}, 1, 4) AS INTEGER)",
            GroupPart.Month => $"CAST(substr({by}, 6, 2) AS INTEGER)",
            _ => by,
        };
        var sql = new StringBuilder("SELECT ");
        sql.AppendJoin(", ", query.Columns.Select(projection => projection.Column == query.By ? group : Column(projection.Column)));
        sql.Append(", count(*)");
        From(query.Table, query.Joins, sql);
        Where(query.Where, sql);
        return sql.Append($" GROUP BY {group} ORDER BY {group}{(query.Descending ? " DESC" : "")} NULLS LAST LIMIT {query.Limit}").ToString();
    }

    /// <summary>A change, its values as numbered arguments in the order of <see cref="Arguments"/>.</summary>
    public static string Of(RecordWrite write)
    {
        var number = 0;
        return Of(write, _ => $"?{++number}");
    }

    /// <summary>A change as it could be pasted into SQLite's shell, secrets left out.</summary>
    public static string Shown(RecordWrite write) => Of(write, value => value.Secret ? "'(secret)'" : Literal(value.Value)) + ";";

    /// <summary>
    /// The values of a change as they are bound. A decimal is bound as its text: the column's affinity makes a number of it, and a
    /// column that keeps text keeps every digit.
    /// </summary>
    public static IReadOnlyList<Constant> Arguments(RecordWrite write) =>
    [
        .. (write switch
        {
            RecordWrite.Insert insert => insert.Values,
            RecordWrite.Update update => update.Values.Concat(update.Key),
            RecordWrite.Delete delete => delete.Key,
            _ => [],
        }).Select(value => value.Value is Constant.Number number ? new Constant.Text(number.ToString()) : value.Value),
    ];

    private static string Of(RecordWrite write, Func<ColumnValue, string> valueOf)
    {
        string Pairs(IEnumerable<ColumnValue> values, string joint, string sign) => string.Join(joint, values.Select(value => $"{Name(value.Column)} {sign} {valueOf(value)}"));
        switch (write)
        {
            case RecordWrite.Insert insert:
                var returning = insert.Returning.Count == 0 ? "" : $" RETURNING {string.Join(", ", insert.Returning.Select(Name))}";
                return insert.Values.Count == 0
                    ? $"INSERT INTO {Name(insert.Table)} DEFAULT VALUES{returning}"
                    : $"INSERT INTO {Name(insert.Table)} ({string.Join(", ", insert.Values.Select(value => Name(value.Column)))}) VALUES ({string.Join(", ", insert.Values.Select(valueOf))}){returning}";
            case RecordWrite.Update update:
                return $"UPDATE {Name(update.Table)} SET {Pairs(update.Values, ", ", "=")} WHERE {Pairs(update.Key, " AND ", "IS")}";
            default:
                return $"DELETE FROM {Name(write.Table)} WHERE {Pairs(((RecordWrite.Delete)write).Key, " AND ", "IS")}";
        }
    }

    /// <summary>A value as it is written in SQL.</summary>
    public static string Literal(Constant value) => value switch
    {
        Constant.Whole whole => whole.Value.ToString(CultureInfo.InvariantCulture),
        Constant.Real real => real.Value.ToString("R", CultureInfo.InvariantCulture) is var digits && digits.AsSpan().ContainsAny('.', 'E') ? digits : digits + ".0",
        Constant.Text text => "'" + text.Value.Replace("'", "''") + "'",
        Constant.Truth truth => truth.Value ? "1" : "0",
        Constant.Uuid or Constant.Date or Constant.Moment => $"'{value}'",
        Constant.Number number => number.Value.ToString(CultureInfo.InvariantCulture),
        Constant.Bytes bytes => $"x'{Convert.ToHexString(bytes.Value)}'",
        _ => "NULL",
    };

    /// <param name="more">Further columns, with the comma before them.</param>
    private static string Select(RecordQuery query, string more)
    {
        var sql = new StringBuilder("SELECT ");
        List<string> columns = [.. query.Columns.Select(projection => Column(projection.Column))];
        if (query.Flag is { } flag) columns.Add(Flag(flag));
        sql.AppendJoin(", ", columns);
        if (query.CountLimit is { } limit)
        {
            sql.Append(columns.Count > 0 ? ", (SELECT " : "(SELECT ");
            Count(query.Table, query.Joins, query.Where, limit, sql);
            sql.Append(')');
        }

        sql.Append(more);
        From(query.Table, query.Joins, sql);
        Where(query.Where, sql);
        if (query.Order.Count > 0) sql.Append(" ORDER BY ").AppendJoin(", ", query.Order.Select(order => Order(order, query.Flag)));
        return sql.Append(" LIMIT ").Append(query.Limit).ToString();
    }

    private static void Count(RowOrigin table, IReadOnlyList<Join> joins, IReadOnlyList<Condition> where, int limit, StringBuilder sql)
    {
        // Joins find at most one row each: those that no condition reads cannot change a count.
        sql.Append("count(*) FROM (SELECT 1");
        From(table, where.SelectMany(condition => condition.Columns).Any(column => column.Table > 0) ? joins : [], sql);
        Where(where, sql);
        sql.Append(" LIMIT ").Append(limit).Append(')');
    }

    private static void From(RowOrigin table, IReadOnlyList<Join> joins, StringBuilder sql)
    {
        sql.Append(" FROM ").Append(Origin(table)).Append(" AS t0");
        for (var i = 0; i < joins.Count; i++) Join(joins[i], i + 1, sql);
    }

    private static void Join(Join join, int number, StringBuilder sql)
    {
        sql.Append(" LEFT JOIN ").Append(Origin(join.Table)).Append(" AS t").Append(number).Append(" ON ");
        var on = join.On.Select(pair => $"t{number}.{Name(pair.Other)} = t{join.From}.{Name(pair.Own)}");
        sql.AppendJoin(" AND ", on.Concat(join.Conditions.Select(condition => Test(condition, number))));
    }

    private static string Origin(RowOrigin origin) => origin.Query is { } query
        ? $"({SqliteScript.Fill(query, name => Value(origin.Values.First(value => value.Name == name).Value))})"
        : Name(origin.Name);

    private static void Where(IReadOnlyList<Condition> conditions, StringBuilder sql)
    {
        if (conditions.Count > 0) sql.Append(" WHERE ").AppendJoin(" AND ", conditions.Select(condition => Test(condition, 0)));
    }

    private static string Flag(IReadOnlyList<Condition> conditions) =>
        $"({string.Join(" AND ", conditions.Select(condition => $"ifnull({Test(condition, 0)}, 0)"))})";

    private static string Order(Ordering order, IReadOnlyList<Condition>? flag) => order switch
    {
        Ordering.ByColumn by => Column(by.Column) + (by.Descending ? " DESC" : "")
            + (by.Empties switch { EmptyPlace.First => " NULLS FIRST", EmptyPlace.Last => " NULLS LAST", _ => "" }),
        Ordering.ExactFirst exact => $"({Column(exact.Column)} = ?{exact.Argument + 1} COLLATE BINARY) DESC",
        _ => Flag(flag!) + " DESC",
    };

    /// <param name="table">Where the condition's own columns stand: 0, or the joined table it is about.</param>
    private static string Test(Condition condition, int table) => condition switch
    {
        Condition.Equal { Value: Operand.Argument { Type: FieldType.Uuid } or Operand.Written { Value: Constant.Uuid } } equal =>
            $"{Column(equal.Column, table)} IN ({Spellings(equal.Value)})",
        Condition.Equal equal => $"{Column(equal.Column, table)} = {Value(equal.Value)}",
        Condition.Differs differs => $"{Column(differs.Column, table)} IS NOT {Value(differs.Value)}",
        Condition.OneOf oneOf => $"{Column(oneOf.Column, table)} IN ({string.Join(", ", oneOf.Values.Select(Spellings))})",
        Condition.IsEmpty empty => $"{Column(empty.Column, table)} IS NULL",
        Condition.IsFilled filled => $"{Column(filled.Column, table)} IS NOT NULL",
        Condition.Compare { Value: Operand.Argument { Type: FieldType.Timestamp } or Operand.Written { Value: Constant.Moment } } moment => Moment(moment, table),
        Condition.Compare compare => $"{Column(compare.Column, table)} {Sign(compare.Comparison)} {Value(compare.Value)}",
        Condition.Contains contains => $"{Column(contains.Column, table)} LIKE '%' || {LikeText(Value(contains.Value))} || '%' ESCAPE '\\'",

        // Nothing begins with a text that is not between it and it with the greatest character behind it.
        Condition.StartsWith starts => $"({Column(starts.Column, table)} >= {Value(starts.Value)} AND {Column(starts.Column, table)} < {Value(starts.Value)} || char(1114111))",
        Condition.All all => all.Conditions.Count == 0 ? "1" : $"({string.Join(" AND ", all.Conditions.Select(part => Test(part, table)))})",
        Condition.Any any => any.Conditions.Count == 0 ? "0" : $"({string.Join(" OR ", any.Conditions.Select(part => Test(part, table)))})",
        _ => throw new ArgumentOutOfRangeException(nameof(condition)),
    };

    /// <summary>
    /// A moment may be stored with a blank or a T between date and time, so text order alone could mistake the hours of one
    /// day: the day's text lets an index serve, the moment itself decides.
    /// </summary>
    private static string Moment(Condition.Compare compare, int table)
    {
        var column = Column(compare.Column, table);
        var value = Value(compare.Value);
        var day = compare.Comparison is Comparison.AtLeast or Comparison.Greater
            ? $"{column} >= date({value})"
            : $"{column} < date({value}, '+1 day')";
        return $"({day} AND datetime({column}) {Sign(compare.Comparison)} datetime({value}))";
    }

    private static string Sign(Comparison comparison) => comparison switch
    {
        Comparison.Less => "<",
        Comparison.AtMost => "<=",
        Comparison.AtLeast => ">=",
        _ => ">",
    };

    /// <summary>A text in which the signs of LIKE stand for themselves.</summary>
    private static string LikeText(string value) => $"replace(replace(replace({value}, '\\', '\\\\'), '%', '\\%'), '_', '\\_')";

    /// <summary>A value as a list of what a column may hold for it.</summary>
    private static string Spellings(Operand operand) =>
        operand is Operand.Argument { Type: FieldType.Uuid } or Operand.Written { Value: Constant.Uuid } ? UuidSpellings(Value(operand)) : Value(operand);

    /// <summary>
    /// A UUID under every spelling that a loosely typed column may hold: text in either case, with and without hyphens, in
    /// braces; and its sixteen bytes. The index serves each.
    /// </summary>
    private static string UuidSpellings(string canonical) =>
        $"{canonical}, upper({canonical}), replace({canonical}, '-', ''), upper(replace({canonical}, '-', '')), "
        + $"'{{' || {canonical} || '}}', '{{' || upper({canonical}) || '}}', unhex(replace({canonical}, '-', ''))";

    private static string Value(Operand operand) => operand switch
    {
        Operand.Argument argument => $"?{argument.Number + 1}",
        Operand.Written written => Literal(written.Value),
        _ => throw new ArgumentOutOfRangeException(nameof(operand)),
    };

    private static string Column(ColumnRef column, int table = 0) => $"t{(column.Table == 0 ? table : column.Table)}.{Name(column.Name)}";

    private static string Name(string name) => "\"" + name.Replace("\"", "\"\"") + "\"";
}
