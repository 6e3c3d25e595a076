using System.Buffers.Text;
using System.Globalization;
using System.Text;
using Jexa.Core.Values;

namespace Jexa.Core.Formats;

/// <summary>
/// Writes cells for people as plain UTF-8 text. Whoever writes it into HTML encodes it. It writes field values only, never an ID.
/// </summary>
public static class ValueFormat
{
    /// <summary>Numbers with five or more digits are grouped. Years are not.</summary>
    private const long GroupedFrom = 10_000;

    /// <summary>Appends the value; nothing for an empty cell.</summary>
    public static void Write(Row row, int column, FieldType type, ValueStyle style, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        if (cell.IsNull)
            return;
        if (style.Choices.Count > 0 && Choice(row, column, style) is { } label)
        {
            into.Append(label);
            return;
        }

        WriteValue(row, column, type, style, into);
        if (style.Unit is not { } unit)
            return;

        // A number and its unit stay on one line.
        into.Append("\u00a0"u8);
        into.Append(unit);
    }

    /// <summary>The moment of a number of seconds since 1970; null outside the years 1 to 9999.</summary>
    public static DateTime? MomentOf(long seconds) =>
        seconds is >= -62_135_596_800 + 86_400 and <= 253_402_300_799 - 86_400 ? DateTime.UnixEpoch.AddSeconds(seconds) : null;

    /// <summary>A count for people: “1,204”.</summary>
    public static string Count(long count) => Count(count, Conventions.Default);

    /// <summary>A count with the locale's marks between groups of digits.</summary>
    public static string Count(long count, Conventions conventions) => count.ToString("N0", conventions.Numbers);

    private static void WriteValue(Row row, int column, FieldType type, ValueStyle style, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        switch (cell.Kind)
        {
            case CellKind.Integer when type == FieldType.Boolean && cell.Integer is 0 or 1:
            case CellKind.Boolean:
                into.Append(cell.Integer == 0 ? "No"u8 : "Yes"u8);
                break;
            case CellKind.Integer when style.Form == FieldForm.Epoch && MomentOf(cell.Integer) is { } moment:
                WriteTimestamp(style.Conventions.Shown(moment), style.Conventions, into);
                break;
            case CellKind.Integer when style.Decimals > 0:
                WriteRounded(cell.Integer, style, into);
                break;
            case CellKind.Integer:
                WriteInteger(cell.Integer, style.Conventions, into);
                break;
            case CellKind.Real:
                WriteReal(cell.Real, style, into);
                break;
            case CellKind.Date:
                WriteDate(DateOnly.FromDayNumber((int)cell.Integer), style.Conventions, into);
                break;
            case CellKind.Timestamp:
                WriteTimestamp(style.Conventions.Shown(new DateTime(cell.Integer)), style.Conventions, into);
                break;
            case CellKind.Bytes:
                WriteSize(cell.Length, style.Conventions, into);
                break;
            case CellKind.Uuid:
                new Guid(row.Run(column), bigEndian: true).TryFormat(into.Room(36), out var written);
                into.Advance(written);
                break;
            case CellKind.Decimal
                when style.Decimals is not null && decimal.TryParse(row.Run(column), CultureInfo.InvariantCulture, out var exact):
                WriteRounded(exact, style, into);
                break;
            case CellKind.Decimal
                when style.Conventions.DecimalMark is not [(byte)'.'] && row.Run(column).IndexOf((byte)'.') is var point and >= 0:
                into.Append(row.Run(column)[..point]);
                into.Append(style.Conventions.DecimalMark);
                into.Append(row.Run(column)[(point + 1)..]);
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

    private static void WriteSize(int bytes, Conventions conventions, Utf8Buffer into)
    {
        WriteInteger(bytes, conventions, into);
        into.Append(bytes == 1 ? " byte"u8 : " bytes"u8);
    }

    /// <summary>The label of a value. Choices are found by their canonical texts.</summary>
    private static string? Choice(Row row, int column, ValueStyle style)
    {
        ref readonly var cell = ref row[column];
        var stored = cell.Kind switch
        {
            CellKind.Integer => cell.Integer.ToString(CultureInfo.InvariantCulture),
            CellKind.Boolean => cell.Integer == 0 ? "false" : "true",
            CellKind.Text => row.Text(column),
            _ => null,
        };
        return stored is not null && style.Choices.TryGetValue(stored, out var label) ? label : null;
    }

    private static void WriteInteger(long value, Conventions conventions, Utf8Buffer into)
    {
        if (value is > -GroupedFrom and < GroupedFrom)
            into.Append(value);
        else if (conventions.GroupMark is [(byte)','])
        {
            Utf8Formatter.TryFormat(value, into.Room(32), out var written, new System.Buffers.StandardFormat('N', 0));
            into.Advance(written);
        }
        else
        {
            into.Append(value.ToString("N0", conventions.Numbers));
        }
    }

    private static void WriteReal(double value, ValueStyle style, Utf8Buffer into)
    {
        if (style.Decimals is not null && Math.Abs(value) < 1e15)
        {
            WriteRounded((decimal)value, style, into);
            return;
        }

        value.TryFormat(into.Room(48), out var written, "R", style.Conventions.Numbers);
        into.Advance(written);
    }

    private static void WriteRounded(decimal value, ValueStyle style, Utf8Buffer into)
    {
        var form = Math.Abs(value) < GroupedFrom ? "F" : "N";
        into.Append(value.ToString(form + style.Decimals!.Value, style.Conventions.Numbers));
    }

    private static void WriteDate(DateOnly date, Conventions conventions, Utf8Buffer into)
    {
        into.Append(date.Day);
        into.Append((byte)' ');
        into.Append(conventions.Month(date.Month));
        into.Append((byte)' ');
        into.Append(date.Year);
    }

    private static void WriteTimestamp(DateTime moment, Conventions conventions, Utf8Buffer into)
    {
        WriteDate(DateOnly.FromDateTime(moment), conventions, into);
        into.Append(", "u8);
        moment.TryFormat(into.Room(16), out var written, moment.Second == 0 ? "HH:mm" : "HH:mm:ss", CultureInfo.InvariantCulture);
        into.Advance(written);
    }

    /// <summary>Text that is not valid UTF-8 is shown with replacement characters.</summary>
    private static void WriteText(ReadOnlySpan<byte> text, Utf8Buffer into)
    {
        if (System.Text.Unicode.Utf8.IsValid(text))
            into.Append(text);
        else
            into.Append(Encoding.UTF8.GetString(text));
    }
}
