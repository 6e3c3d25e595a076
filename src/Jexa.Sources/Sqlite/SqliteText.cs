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
    public static string Of(RecordQuery query)
    {
        var sql = new StringBuilder("SELECT ");
        sql.AppendJoin(", ", query.Columns.Select(projection => Column(projection.Column)));
        if (query.Flag is { } flag) sql.Append(query.Columns.Count > 0 ? ", " : "").Append(Flag(flag));
        sql.Append(" FROM ").Append(Name(query.Table)).Append(" AS t0");
        for (var i = 0; i < query.Joins.Count; i++) Join(query.Joins[i], i + 1, sql);
        Where(query.Where, sql);
        if (query.Order.Count > 0) sql.Append(" ORDER BY ").AppendJoin(", ", query.Order.Select(order => Order(order, query.Flag)));
        return sql.Append(" LIMIT ").Append(query.Limit).ToString();
    }

    public static string Of(CountQuery query)
    {
        var sql = new StringBuilder("SELECT count(*) FROM (SELECT 1 FROM ").Append(Name(query.Table)).Append(" AS t0");
        Where(query.Where, sql);
        return sql.Append(" LIMIT ").Append(query.Limit).Append(')').ToString();
    }

    /// <summary>A value as it is written in SQL.</summary>
    public static string Literal(Constant value) => value switch
    {
        Constant.Whole whole => whole.Value.ToString(CultureInfo.InvariantCulture),
        Constant.Real real => real.Value.ToString("R", CultureInfo.InvariantCulture) is var digits && digits.AsSpan().ContainsAny('.', 'E') ? digits : digits + ".0",
        Constant.Text text => "'" + text.Value.Replace("'", "''") + "'",
        Constant.Truth truth => truth.Value ? "1" : "0",
        Constant.Uuid or Constant.Date => $"'{value}'",
        Constant.Bytes bytes => $"x'{Convert.ToHexString(bytes.Value)}'",
        _ => "NULL",
    };

    private static void Join(Join join, int number, StringBuilder sql)
    {
        sql.Append(" LEFT JOIN ").Append(Name(join.Table)).Append(" AS t").Append(number).Append(" ON ");
        var on = join.On.Select(pair => $"t{number}.{Name(pair.Other)} = t0.{Name(pair.Own)}");
        sql.AppendJoin(" AND ", on.Concat(join.Conditions.Select(condition => Test(condition, number))));
    }

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
        Condition.Equal { Value: Operand.Argument { Type: FieldType.Uuid } uuid } equal => $"{Column(equal.Column, table)} IN ({UuidSpellings($"?{uuid.Number + 1}")})",
        Condition.Equal { Value: Operand.Written { Value: Constant.Uuid uuid } } equal => $"{Column(equal.Column, table)} IN ({UuidSpellings(Literal(uuid))})",
        Condition.Equal equal => $"{Column(equal.Column, table)} = {Value(equal.Value)}",
        Condition.Differs differs => $"{Column(differs.Column, table)} IS NOT {Value(differs.Value)}",
        Condition.OneOf oneOf => $"{Column(oneOf.Column, table)} IN ({string.Join(", ", oneOf.Values.Select(Value))})",
        Condition.IsEmpty empty => $"{Column(empty.Column, table)} IS NULL",
        Condition.IsFilled filled => $"{Column(filled.Column, table)} IS NOT NULL",
        Condition.Behind behind => $"{Column(behind.Column, table)} {(behind.Descending ? '<' : '>')} {Value(behind.Value)}",
        _ => throw new ArgumentOutOfRangeException(nameof(condition)),
    };

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
