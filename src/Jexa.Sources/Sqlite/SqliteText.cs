using System.Globalization;
using Jexa.Core.Plans;
using Jexa.Core.Values;
using Jexa.Sources.Sql;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The SQL of SQLite. Its columns accept any value, so a value is searched for in each spelling that a column may hold.
/// </summary>
internal sealed class SqliteText : SqlText
{
    /// <summary>Parameters, texts and names as SQLite reads them.</summary>
    public static SqlScript Reading { get; } = new(":@$", "'\"`[", backslashes: false);

    protected override SqlScript Script => Reading;

    /// <summary>SQLite allows a column beside a group: it has the value of any one row.</summary>
    protected override bool GroupsByAll => false;

    /// <summary>
    /// The values of a change as they are bound. A decimal is bound as text: the column's affinity makes a number of it, and a
    /// text column keeps every digit.
    /// </summary>
    public static IReadOnlyList<TypedValue> Arguments(RecordWrite write) =>
        [
            .. ValuesOf(write)
                .Select(value => value.Value is TypedValue.Number number ? new TypedValue.Text(number.ToString()) : value.Value),
        ];

    protected override string Name(string name) => "\"" + name.Replace("\"", "\"\"") + "\"";

    protected override string Literal(TypedValue value) =>
        value switch
        {
            TypedValue.Whole whole => whole.Value.ToString(CultureInfo.InvariantCulture),
            TypedValue.Real real => real.Value.ToString("R", CultureInfo.InvariantCulture) is var digits
            && digits.AsSpan().ContainsAny('.', 'E')
                ? digits
                : digits + ".0",
            TypedValue.Text text => "'" + text.Value.Replace("'", "''") + "'",
            TypedValue.Boolean truth => truth.Value ? "1" : "0",
            TypedValue.Uuid or TypedValue.Date or TypedValue.Moment => $"'{value}'",
            TypedValue.Number number => number.Value.ToString(CultureInfo.InvariantCulture),
            TypedValue.Bytes bytes => $"x'{Convert.ToHexString(bytes.Value)}'",
            _ => "NULL",
        };

    /// <summary>SQLite identifies parameters by their names, so each has its argument's number.</summary>
    protected override string Placeholder(int position, int argument) => $"?{argument + 1}";

    protected override string Group(ColumnRef column, GroupPart part) =>
        part switch
        {
            GroupPart.Year => $"CAST(substr({Column(column)}, 1, 4) AS INTEGER)",
            GroupPart.Month => $"CAST(substr({Column(column)}, 6, 2) AS INTEGER)",
            _ => Column(column),
        };

    protected override string ExactFirst(ColumnRef column, Operand value) =>
        $"({Column(column)} = {Value(value)} COLLATE BINARY)";

    protected override string Differs(string column, string value) => $"{column} IS NOT {value}";

    protected override string Matches(string table, IReadOnlyList<ColumnValue> key, Func<ColumnValue, string> put) =>
        string.Join(" AND ", key.Select(value => $"{Name(value.Column)} IS {put(value)}"));

    /// <summary>
    /// SQLite reads the arms of a UNION ALL in their order and stops at the limit: arms after one with a row cost nothing.
    /// </summary>
    protected override string Combined(CombinedQuery query) =>
        string.Join(
            " UNION ALL ",
            query.Searches.Select(
                (search, i) =>
                {
                    var arms = search.Select(part => $"SELECT * FROM ({Select(part with { Limit = 1 }, $", {i}")})");
                    return $"SELECT * FROM ({string.Join(" UNION ALL ", arms)} LIMIT 1)";
                }
            )
        );

    protected override string Equal(Condition.Equal equal, int table) =>
        IsUuid(equal.Value)
            ? $"{Column(equal.Column, table)} IN ({UuidSpellings(Value(equal.Value))})"
            : base.Equal(equal, table);

    protected override string OneOf(ColumnRef column, int table, IReadOnlyList<Operand> values) =>
        $"{Column(column, table)} IN "
        + $"({string.Join(", ", values.Select(value => IsUuid(value) ? UuidSpellings(Value(value)) : Value(value)))})";

    /// <summary>
    /// A moment may be stored with a blank or a T between date and time. So text order alone could confuse the hours of a day:
    /// the day's text lets an index serve, and the moment itself decides.
    /// </summary>
    protected override string Compare(Condition.Compare compare, int table)
    {
        if (compare.Value is not (Operand.Argument { Type: FieldType.Timestamp } or Operand.Written { Value: TypedValue.Moment }))
            return base.Compare(compare, table);
        var column = Column(compare.Column, table);
        var value = Value(compare.Value);
        var day = compare.Comparison is Comparison.AtLeast or Comparison.Greater
            ? $"{column} >= date({value})"
            : $"{column} < date({value}, '+1 day')";
        return $"({day} AND strftime('%Y-%m-%d %H:%M:%f', {column}) {Sign(compare.Comparison)} "
            + $"strftime('%Y-%m-%d %H:%M:%f', {value}))";
    }

    protected override string Contains(Condition.Contains condition, int table) =>
        $"{Column(condition.Column, table)} LIKE '%' || {LikeText(Value(condition.Value))} || '%' ESCAPE '\\'";

    /// <summary>
    /// A text begins with another one only if it lies between that one and that one followed by the greatest character.
    /// </summary>
    protected override string StartsWith(Condition.StartsWith condition, int table)
    {
        var (column, value) = (Column(condition.Column, table), Value(condition.Value));
        return $"({column} >= {value} AND {column} < {value} || char(1114111))";
    }

    /// <summary>A text in which the wildcards of LIKE are escaped.</summary>
    private static string LikeText(string value) => $"replace(replace(replace({value}, '\\', '\\\\'), '%', '\\%'), '_', '\\_')";

    private static bool IsUuid(Operand operand) =>
        operand is Operand.Argument { Type: FieldType.Uuid } or Operand.Written { Value: TypedValue.Uuid };

    /// <summary>
    /// A UUID in every spelling that a loosely typed column may hold: text in either case, with and without hyphens, in braces;
    /// and its sixteen bytes. The index serves each.
    /// </summary>
    private static string UuidSpellings(string canonical) =>
        $"{canonical}, upper({canonical}), replace({canonical}, '-', ''), upper(replace({canonical}, '-', '')), "
        + $"'{{' || {canonical} || '}}', '{{' || upper({canonical}) || '}}', unhex(replace({canonical}, '-', ''))";
}
