using System.Globalization;
using Jexa.Core.Plans;
using Jexa.Core.Values;
using Jexa.Sources.Sql;

namespace Jexa.Sources.Postgres;

/// <summary>
/// The SQL of PostgreSQL. Each parameter is sent as text and cast to the type of its column, so that an index can be used and no
/// other conversion happens.
/// </summary>
internal sealed class PostgresText(NativeSchema schema) : SqlText
{
    private const string Utc = "({0}::timestamp AT TIME ZONE 'UTC')";

    public static SqlScript Reading { get; } = new(":", "'\"", backslashes: false);

    protected override SqlScript Script => Reading;

    public static string Quote(string name) => "\"" + name.Replace("\"", "\"\"") + "\"";

    protected override string Name(string name) => Quote(name);

    protected override string Table(string name) => schema.Tables.GetValueOrDefault(name)?.Sql ?? Name(name);

    protected override string Literal(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => "NULL",
            TypedValue.Whole or TypedValue.Number => Written(value)!,
            TypedValue.Real real when double.IsFinite(real.Value) => $"'{Written(value)}'::float8",
            TypedValue.Boolean truth => truth.Value ? "true" : "false",
            _ => "'" + Written(value)!.Replace("'", "''") + "'",
        };

    /// <summary>A value as PostgreSQL reads it from text; null for none.</summary>
    public static string? Written(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => null,
            TypedValue.Whole whole => whole.Value.ToString(CultureInfo.InvariantCulture),
            TypedValue.Number number => number.Value.ToString(CultureInfo.InvariantCulture),
            TypedValue.Real real => real.Value.ToString("R", CultureInfo.InvariantCulture),
            TypedValue.Moment moment => TextCells.Stored(moment.Value),
            TypedValue.Bytes bytes => "\\x" + Convert.ToHexString(bytes.Value),
            _ => value.ToString(),
        };

    protected override string Placeholder(int position, int argument) => $"${position + 1}";

    protected override string Value(Operand operand, string form = "{0}")
    {
        if (form == "{0}" && operand is Operand.Argument argument)
            form = Cast(argument.Type);
        if (Shown is not null && form != Utc)
            form = "{0}";
        return operand is Operand.Written written
            ? form.Replace("{0}", Literal(written.Value))
            : Parameter(((Operand.Argument)operand).Number, form);
    }

    protected override (string Column, string Value) Pair(ColumnRef column, int table, Operand value)
    {
        var sql = Column(column, table);
        if (schema.Find(Origin(column, table), column.Name) is not { } native)
            return (sql, Value(value));
        var isText = value is Operand.Argument { Type: FieldType.Text } or Operand.Written { Value: TypedValue.Text };
        return
            isText
                && native.Kind
                    is not (NativeKind.Text or NativeKind.Other or NativeKind.Date or NativeKind.Timestamp or NativeKind.Moment)
            || native.Kind == NativeKind.Other
            ? ($"{sql}::text", Value(value, "{0}::text"))
            : (sql, Value(value, Form(native)));
    }

    protected override string Read(ColumnRef column, FieldType type, string sql, GroupPart part) =>
        part != GroupPart.Whole ? sql
        : schema.Find(Origin(column), column.Name) is not { } native ? $"{sql}::text"
        : native.Kind == NativeKind.Moment ? $"({sql} AT TIME ZONE 'UTC')"
        : native.Kind is NativeKind.Decimal or NativeKind.Other || native.IsPadded || native.Column.FoldsCase ? $"{sql}::text"
        : sql;

    protected override string Read(string table, string column) =>
        schema.Tables.GetValueOrDefault(table)?.Find(column) is not { } native ? $"{Name(column)}::text"
        : native.Kind == NativeKind.Moment ? $"({Name(column)} AT TIME ZONE 'UTC')::text"
        : native.Kind is NativeKind.Integer or NativeKind.Real or NativeKind.Boolean or NativeKind.Bytes ? Name(column)
        : $"{Name(column)}::text";

    protected override string Stored(string table, ColumnValue value) =>
        schema.Tables.GetValueOrDefault(table)?.Find(value.Column) is not { } native ? "{0}"
        : native.Kind == NativeKind.Other ? $"{{0}}::{native.TypeName}"
        : Form(native);

    protected override string Sorted(ColumnRef column) =>
        schema.Find(Origin(column), column.Name) is { Kind: NativeKind.Other } ? $"{Column(column)}::text" : Column(column);

    protected override string Group(ColumnRef column, GroupPart part)
    {
        var native = schema.Find(Origin(column), column.Name);
        var sql = native?.Kind == NativeKind.Moment ? $"({Column(column)} AT TIME ZONE 'UTC')" : Sorted(column);
        return part switch
        {
            GroupPart.Year => $"extract(year from {sql})::int4",
            GroupPart.Month => $"extract(month from {sql})::int4",
            _ => sql,
        };
    }

    protected override string ExactFirst(ColumnRef column, Operand value) =>
        $"({Column(column)}::text COLLATE \"C\" = {Value(value, "{0}::text")})";

    protected override string Differs(string column, string value) => $"{column} IS DISTINCT FROM {value}";

    /// <summary>With the collation C, lower() only knows ASCII letters.</summary>
    protected override string Contains(Condition.Contains condition, int table) =>
        $"strpos(lower({Column(condition.Column, table)}::text COLLATE \"C\"), "
        + $"lower({Value(condition.Value, "{0}::text")} COLLATE \"C\")) > 0";

    protected override string StartsWith(Condition.StartsWith condition, int table)
    {
        var column = Column(condition.Column, table);
        var value = Value(condition.Value, "{0}::text");
        return schema.Find(Origin(condition.Column, table), condition.Column.Name) switch
        {
            { IsOrdinal: true } => $"({column} >= {value} AND {column} < {value} || chr(1114111))",
            { Column.FoldsCase: true } => $"strpos(lower({column}::text), lower({value})) = 1",
            _ => $"starts_with({column}::text, {value})",
        };
    }

    protected override string Joined(ColumnRef other, ColumnRef own)
    {
        var (there, here) = (schema.Find(Origin(other), other.Name), schema.Find(Origin(own), own.Name));
        return there?.TypeName == here?.TypeName || (there?.Kind == here?.Kind && here?.Kind != NativeKind.Other)
            ? base.Joined(other, own)
            : $"{Column(other)}::text = {Column(own)}::text";
    }

    private static string Cast(FieldType type) =>
        type switch
        {
            FieldType.Integer => "{0}::int8",
            FieldType.Decimal => "{0}::numeric",
            FieldType.Real => "{0}::float8",
            FieldType.Boolean => "{0}::boolean",
            FieldType.Date => "{0}::date",
            FieldType.Timestamp => "{0}::timestamp",
            FieldType.Uuid => "{0}::uuid",
            FieldType.Bytes => "{0}::bytea",
            _ => "{0}::text",
        };

    private static string Form(NativeColumn native) =>
        native.Kind switch
        {
            NativeKind.Integer => "{0}::int8",
            NativeKind.Decimal => "{0}::numeric",
            NativeKind.Real => "{0}::float8",
            NativeKind.Boolean => "{0}::boolean",
            NativeKind.Date => "{0}::date",
            NativeKind.Timestamp => "{0}::timestamp",
            NativeKind.Moment => Utc,
            NativeKind.Uuid => "{0}::uuid",
            NativeKind.Bytes => "{0}::bytea",
            NativeKind.Text when native.IsPadded => "{0}::bpchar",
            NativeKind.Text when native.Column.FoldsCase => $"{{0}}::{native.TypeName}",
            _ => "{0}::text",
        };
}
