using System.Buffers.Text;
using System.Globalization;
using System.Text;
using Jexa.Core.Values;

namespace Jexa.Core.Formats;

/// <summary>
/// Writes cells for people, as plain UTF-8 text; whoever writes them into HTML encodes them. Field values only: an ID is
/// never written by this.
/// </summary>
public static class ValueFormat
{
    /// <summary>Numbers of five digits and more are grouped, so that years stay years.</summary>
    private const long GroupedFrom = 10_000;

    private static readonly byte[][] Months =
    [
        .. new[] { "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December" }
            .Select(Encoding.UTF8.GetBytes),
    ];

    /// <summary>Appends the value; nothing for an empty cell.</summary>
    public static void Write(Row row, int column, FieldType type, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        switch (cell.Kind)
        {
            case CellKind.Integer when type == FieldType.Boolean && cell.Integer is 0 or 1:
            case CellKind.Boolean:
                into.Append(cell.Integer == 0 ? "No"u8 : "Yes"u8);
                break;
            case CellKind.Integer:
                WriteInteger(cell.Integer, into);
                break;
            case CellKind.Real:
                WriteReal(cell.Real, into);
                break;
            case CellKind.Date:
                WriteDate(DateOnly.FromDayNumber((int)cell.Integer), into);
                break;
            case CellKind.Timestamp:
                WriteTimestamp(new DateTime(cell.Integer), into);
                break;
            case CellKind.Bytes:
                WriteInteger(cell.Length, into);
                into.Append(cell.Length == 1 ? " byte"u8 : " bytes"u8);
                break;
            case CellKind.Uuid:
                new Guid(row.Run(column), bigEndian: true).TryFormat(into.Room(36), out var written);
                into.Advance(written);
                break;
            case CellKind.Text:
            case CellKind.Decimal:
                WriteText(row.Run(column), into);
                break;
            case CellKind.Null:
            default:
                break;
        }
    }

    /// <summary>A count for people: “1,204”.</summary>
    public static string Count(long count) => count.ToString("N0", CultureInfo.InvariantCulture);

    private static void WriteInteger(long value, Utf8Buffer into)
    {
        if (value is > -GroupedFrom and < GroupedFrom)
        {
            into.Append(value);
            return;
        }

        Utf8Formatter.TryFormat(value, into.Room(32), out var written, new System.Buffers.StandardFormat('N', 0));
        into.Advance(written);
    }

    private static void WriteReal(double value, Utf8Buffer into)
    {
        value.TryFormat(into.Room(32), out var written, "R", CultureInfo.InvariantCulture);
        into.Advance(written);
    }

    private static void WriteDate(DateOnly date, Utf8Buffer into)
    {
        into.Append(date.Day);
        into.Append((byte)' ');
        into.Append(Months[date.Month - 1]);
        into.Append((byte)' ');
        into.Append(date.Year);
    }

    private static void WriteTimestamp(DateTime moment, Utf8Buffer into)
    {
        WriteDate(DateOnly.FromDateTime(moment), into);
        into.Append(", "u8);
        moment.TryFormat(into.Room(16), out var written, moment.Second == 0 ? "HH:mm" : "HH:mm:ss", CultureInfo.InvariantCulture);
        into.Advance(written);
    }

    /// <summary>Text that is not valid UTF-8 is shown with replacement characters, never passed on as it is.</summary>
    private static void WriteText(ReadOnlySpan<byte> text, Utf8Buffer into)
    {
        if (System.Text.Unicode.Utf8.IsValid(text)) into.Append(text);
        else into.Append(Encoding.UTF8.GetString(text));
    }
}
