using System.Globalization;
using Jexa.Core.Plans;
using Jexa.Core.Values;
using Jexa.Sources.Sql;

namespace Jexa.Sources.MariaDb;

/// <summary>
/// The SQL of MariaDB. By itself it compares a text with a number by converting the text. Here a value is always converted to the
/// type of the column.
/// </summary>
internal sealed class MariaDbText(NativeSchema schema) : SqlText
{
    private const string Exactly = "utf8mb4_nopad_bin";

    public static SqlScript Reading { get; } = new(":", "'\"`", backslashes: true);

    protected override SqlScript Script => Reading;

    public static string Quote(string name) => "`" + name.Replace("`", "``") + "`";

    protected override string Name(string name) => Quote(name);

    protected override string Table(string name) => schema.Tables.GetValueOrDefault(name)?.Sql ?? Name(name);

    protected override string Literal(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => "NULL",
            TypedValue.Whole or TypedValue.Number or TypedValue.Real => Convert.ToString(
                Bound(value),
                CultureInfo.InvariantCulture
            )!,
            TypedValue.Boolean truth => truth.Value ? "TRUE" : "FALSE",
            TypedValue.Bytes bytes => $"x'{Convert.ToHexString(bytes.Value)}'",
            _ => "'" + ((string)Bound(value)!).Replace("\\", "\\\\").Replace("'", "''") + "'",
        };

    /// <summary>A value as the driver binds it.</summary>
    public static object? Bound(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => null,
            TypedValue.Whole whole => whole.Value,
            TypedValue.Number number => number.Value,
            TypedValue.Real real => real.Value,
            TypedValue.Boolean truth => truth.Value ? 1L : 0L,
            TypedValue.Moment moment => TextCells.Stored(moment.Value),
            TypedValue.Bytes bytes => bytes.Value,
            _ => value.ToString(),
        };

    protected override string Placeholder(int position, int argument) => $"@p{position}";

    protected override string Value(Operand operand, string form = "{0}") =>
        operand is Operand.Written written
            ? form.Replace("{0}", Literal(written.Value))
            : Parameter(((Operand.Argument)operand).Number, Shown is null ? form : "{0}");

    protected override (string Column, string Value) Pair(ColumnRef column, int table, Operand value)
    {
        var sql = Column(column, table);
        if (schema.Find(Origin(column, table), column.Name) is not { } native)
            return (sql, Value(value));
        var type = value switch
        {
            Operand.Argument argument => argument.Type,
            Operand.Written { Value: TypedValue.Text } => FieldType.Text,
            Operand.Written { Value: TypedValue.Uuid } => FieldType.Uuid,
            Operand.Written { Value: TypedValue.Whole or TypedValue.Number or TypedValue.Real } => FieldType.Decimal,
            _ => FieldType.Any,
        };
        var holdsNumbers = native.Kind is NativeKind.Integer or NativeKind.Decimal or NativeKind.Real or NativeKind.Boolean;
        return type switch
        {
            FieldType.Text when holdsNumbers => ($"CAST({sql} AS CHAR)", Value(value)),
            FieldType.Uuid when native.Kind == NativeKind.Bytes => (sql, Value(value, "UNHEX(REPLACE({0}, '-', ''))")),
            _ => native.Kind switch
            {
                NativeKind.Text when value is Operand.Written { Value: TypedValue.Text } => (sql, Value(value)),
                NativeKind.Text => (sql, Value(value, "CAST({0} AS CHAR)")),
                NativeKind.Other => ($"CAST({sql} AS CHAR)", Value(value, "CAST({0} AS CHAR)")),
                NativeKind.Decimal => (sql, Value(value, "CAST({0} AS DECIMAL(65,30))")),
                _ => (sql, Value(value)),
            },
        };
    }

    protected override string Read(ColumnRef column, FieldType type, string sql, GroupPart part) =>
        part == GroupPart.Whole
        && schema.Find(Origin(column), column.Name) is null or { Kind: NativeKind.Decimal or NativeKind.Other }
            ? $"CAST({sql} AS CHAR)"
            : sql;

    protected override string Read(string table, string column) =>
        schema.Tables.GetValueOrDefault(table)?.Find(column)?.Kind
            is NativeKind.Integer
                or NativeKind.Real
                or NativeKind.Boolean
                or NativeKind.Bytes
            ? Name(column)
            : $"CAST({Name(column)} AS CHAR)";

    protected override string Stored(string table, ColumnValue value) =>
        value.Value is TypedValue.Uuid && schema.Tables.GetValueOrDefault(table)?.Find(value.Column)?.Kind == NativeKind.Bytes
            ? "UNHEX(REPLACE({0}, '-', ''))"
            : "{0}";

    protected override string Sorted(ColumnRef column) =>
        schema.Find(Origin(column), column.Name) is { Kind: NativeKind.Other }
            ? $"CAST({Column(column)} AS CHAR)"
            : Column(column);

    protected override string Group(ColumnRef column, GroupPart part) =>
        part switch
        {
            GroupPart.Year => $"YEAR({Column(column)})",
            GroupPart.Month => $"MONTH({Column(column)})",
            _ => Sorted(column),
        };

    /// <summary>By itself, MariaDB puts empty values first, and last in a descending order.</summary>
    protected override string Placed(string sql, bool descending, EmptyPlace? empties) =>
        (
            empties is null || empties == (descending ? EmptyPlace.Last : EmptyPlace.First) ? ""
            : empties == EmptyPlace.Last ? $"{sql} IS NULL, "
            : $"{sql} IS NOT NULL, "
        )
        + sql
        + (descending ? " DESC" : "");

    protected override string ExactFirst(ColumnRef column, Operand value) =>
        $"(CONVERT({Column(column)} USING utf8mb4) COLLATE {Exactly} = {Value(value, "CAST({0} AS CHAR)")})";

    protected override string Differs(string column, string value) => $"NOT ({column} <=> {value})";

    protected override string Contains(Condition.Contains condition, int table) =>
        $"LOCATE(LOWER(CAST({Value(condition.Value)} AS CHAR) COLLATE {Exactly}), "
        + $"LOWER(CONVERT({Column(condition.Column, table)} USING utf8mb4) COLLATE {Exactly})) > 0";

    protected override string StartsWith(Condition.StartsWith condition, int table) =>
        $"{Column(condition.Column, table)} LIKE "
        + $"CONCAT(REPLACE(REPLACE(REPLACE({Value(condition.Value)}, '|', '||'), '%', '|%'), '_', '|_'), "
        + "'%') ESCAPE '|'";

    protected override string InsertDefaults(string table) => $"INSERT INTO {Table(table)} () VALUES ()";

    /// <summary>A text key belongs to a row only if it is equal, trailing blanks included.</summary>
    protected override string Matches(string table, IReadOnlyList<ColumnValue> key, Func<ColumnValue, string> put) =>
        string.Join(
            " AND ",
            key.Select(value =>
                value.Value is TypedValue.Empty ? $"{Name(value.Column)} IS NULL" : $"{Name(value.Column)} = {put(value)}"
            )
        );

    protected override string Joined(ColumnRef other, ColumnRef own)
    {
        var (there, here) = (schema.Find(Origin(other), other.Name)?.Kind, schema.Find(Origin(own), own.Name)?.Kind);
        return there == here || there is null || here is null || (IsNumber(there) && IsNumber(here))
            ? base.Joined(other, own)
            : $"CAST({Column(other)} AS CHAR) = CAST({Column(own)} AS CHAR)";
    }

    private static bool IsNumber(NativeKind? kind) => kind is NativeKind.Integer or NativeKind.Decimal or NativeKind.Real;
}
