using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>A year of four digits or a month from 1 to 12, for filters of lists. A date or moment has one of each.</summary>
public sealed class DatePartKey : KeyType
{
    private readonly bool _isMonth;

    private DatePartKey(bool isMonth) => _isMonth = isMonth;

    /// <summary>The key that reads a year.</summary>
    public static DatePartKey Year { get; } = new(false);

    /// <summary>The key that reads a month.</summary>
    public static DatePartKey Month { get; } = new(true);

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Integer;

    /// <inheritdoc/>
    public override string Looks => _isMonth ? "a month from 1 to 12" : "a year, such as 2024";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        var reading = IntegerKey.Between(1, _isMonth ? 12 : 9998).Read(id);
        if (reading.Fault != KeyFault.None || _isMonth)
            return reading;
        if (id.Length == 4)
            return KeyReading.Of(reading.Value!, id.SequenceEqual(Write(reading.Value!)));
        return KeyReading.Failed(id.Length > 4 ? KeyFault.OutOfRange : KeyFault.WrongForm);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (PartOf(row[column]) is not { } part)
            return false;
        into.Append(Text(part));
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => Text(((TypedValue.Whole)value).Value);

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Whole(PartOf(row[column]) ?? 0);

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => PartOf(cell) is not null;

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        asked is TypedValue.Whole whole && PartOf(row[column]) == whole.Value ? KeyMatch.Exact : KeyMatch.None;

    private string Text(long part) => part.ToString(_isMonth ? "0" : "0000", CultureInfo.InvariantCulture);

    /// <summary>In a group, the cell holds the year or month itself.</summary>
    private long? PartOf(in Cell cell) =>
        cell.Kind switch
        {
            CellKind.Date => Of(DateOnly.FromDayNumber((int)cell.Integer).ToDateTime(TimeOnly.MinValue)),
            CellKind.Timestamp => Of(new DateTime(cell.Integer)),
            CellKind.Integer when cell.Integer >= 1 && cell.Integer <= (_isMonth ? 12 : 9998) => cell.Integer,
            _ => null,
        };

    private long Of(DateTime moment) => _isMonth ? moment.Month : moment.Year;
}
