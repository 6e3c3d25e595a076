using System.Globalization;
using System.Text;
using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>Conditions on a loaded row: whether a field that depends on them is shown.</summary>
/// <param name="ordinalOf">The cell of each column that they read.</param>
public sealed class RowTest(IReadOnlyList<Condition> conditions, Func<ColumnRef, int> ordinalOf)
{
    private readonly Dictionary<ColumnRef, int> _ordinals = conditions
        .SelectMany(condition => condition.Columns)
        .Distinct()
        .ToDictionary(column => column, ordinalOf);

    /// <summary>Whether the test holds for the row.</summary>
    public bool Holds(Row row)
    {
        foreach (var condition in conditions)
            if (!Holds(condition, row))
                return false;
        return true;
    }

    private bool Holds(Condition condition, Row row) =>
        condition switch
        {
            Condition.Equal { Value: Operand.Written written } equal => Equal(row, equal.Column, written.Value),
            Condition.Differs { Value: Operand.Written written } differs => !Equal(row, differs.Column, written.Value),
            Condition.OneOf oneOf => oneOf.Values.Any(value =>
                value is Operand.Written written && Equal(row, oneOf.Column, written.Value)
            ),
            Condition.IsEmpty empty => row[_ordinals[empty.Column]].IsNull,
            Condition.IsFilled filled => !row[_ordinals[filled.Column]].IsNull,
            Condition.Compare { Value: Operand.Written written } compare => Compare(row, compare, written.Value),
            Condition.Contains { Value: Operand.Written { Value: TypedValue.Text text } } contains => Text(row, contains.Column)
                .Contains(text.Value, StringComparison.OrdinalIgnoreCase),
            Condition.StartsWith { Value: Operand.Written { Value: TypedValue.Text text } } starts => Text(row, starts.Column)
                .StartsWith(text.Value, StringComparison.Ordinal),
            Condition.All all => all.Conditions.All(part => Holds(part, row)),
            Condition.Any any => any.Conditions.Any(part => Holds(part, row)),
            _ => false,
        };

    private string Text(Row row, ColumnRef column) =>
        row[_ordinals[column]].Kind == CellKind.Text ? row.Text(_ordinals[column]) : "";

    private bool Equal(Row row, ColumnRef column, TypedValue value)
    {
        var ordinal = _ordinals[column];
        ref readonly var cell = ref row[ordinal];
        return value switch
        {
            TypedValue.Text text => cell.Kind == CellKind.Text
                && row.Run(ordinal).SequenceEqual(Encoding.UTF8.GetBytes(text.Value)),
            TypedValue.Boolean truth => cell.Kind is CellKind.Boolean or CellKind.Integer
                && cell.Integer == (truth.Value ? 1 : 0),
            TypedValue.Date date => cell.Kind == CellKind.Date && cell.Integer == date.Value.DayNumber,
            TypedValue.Uuid uuid => cell.Kind == CellKind.Uuid && new Guid(row.Run(ordinal), bigEndian: true) == uuid.Value,
            _ => Number(row, ordinal) is { } own && Number(value) is { } other && own == other,
        };
    }

    private bool Compare(Row row, Condition.Compare compare, TypedValue value)
    {
        var ordinal = _ordinals[compare.Column];
        int? order = value is TypedValue.Text text
            ? row[ordinal].Kind == CellKind.Text
                ? string.CompareOrdinal(row.Text(ordinal), text.Value)
                : null
            : Number(row, ordinal) is { } own && Number(value) is { } other
                ? own.CompareTo(other)
                : null;
        return order is { } sign
            && compare.Comparison switch
            {
                Comparison.Less => sign < 0,
                Comparison.AtMost => sign <= 0,
                Comparison.AtLeast => sign >= 0,
                _ => sign > 0,
            };
    }

    /// <summary>A number, or the days of a date.</summary>
    private static double? Number(Row row, int ordinal) =>
        row[ordinal].Kind switch
        {
            CellKind.Integer or CellKind.Boolean or CellKind.Date or CellKind.Timestamp => row[ordinal].Integer,
            CellKind.Real => row[ordinal].Real,
            CellKind.Decimal => double.Parse(row.Text(ordinal), CultureInfo.InvariantCulture),
            _ => null,
        };

    private static double? Number(TypedValue value) =>
        value switch
        {
            TypedValue.Whole whole => whole.Value,
            TypedValue.Real real => real.Value,
            TypedValue.Number number => (double)number.Value,
            TypedValue.Date date => date.Value.DayNumber,
            TypedValue.Moment moment => moment.Value.Ticks,
            _ => null,
        };
}
