using System.Globalization;
using System.Text;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Calendar dates of the years 1 to 9999 (ISO 8601, <c>2024-02-29</c>). There is no other spelling: other orders and separators
/// mean different days in different countries.
/// </summary>
public sealed class DateKey : KeyType
{
    private DateKey() { }

    /// <summary>The only instance.</summary>
    public static DateKey Instance { get; } = new();

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Date;

    /// <inheritdoc/>
    public override string Looks => "a date, such as 2024-02-29";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        Span<byte> bytes = stackalloc byte[10];
        return
            id.Length == 10
            && Ascii.IsValid(id)
            && Encoding.ASCII.GetBytes(id, bytes) == 10
            && TypedText.TryDate(bytes, out var days)
            ? KeyReading.Of(new TypedValue.Date(DateOnly.FromDayNumber((int)days)), canonical: true)
            : KeyReading.Failed(id.Length > 64 ? KeyFault.TooLong : KeyFault.WrongForm);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (row[column].Kind != CellKind.Date)
            return false;
        DateOnly
            .FromDayNumber((int)row[column].Integer)
            .TryFormat(into.Room(16), out var written, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        into.Advance(written);
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) =>
        ((TypedValue.Date)value).Value.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Date;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) =>
        new TypedValue.Date(DateOnly.FromDayNumber((int)row[column].Integer));

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        row[column].Kind == CellKind.Date && asked is TypedValue.Date date && row[column].Integer == date.Value.DayNumber
            ? KeyMatch.Exact
            : KeyMatch.None;
}
