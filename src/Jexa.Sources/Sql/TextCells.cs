using System.Globalization;
using System.Text;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>Adds cells for values that sources store as text, with the field's type if the text can be read as such.</summary>
internal static class TextCells
{
    public static void Add(ReadOnlySpan<byte> text, FieldType type, RowBlock into)
    {
        if (type == FieldType.Date && TypedText.TryDate(text, out var days))
            into.AddNumber(CellKind.Date, days);
        else if (type == FieldType.Timestamp && TypedText.TryTimestamp(text, out var ticks))
            into.AddNumber(CellKind.Timestamp, ticks);
        else if (type == FieldType.Uuid && TryUuid(text, out var uuid))
            Add(uuid, into);
        else
            into.AddRun(type == FieldType.Decimal && TypedText.IsDecimal(text) ? CellKind.Decimal : CellKind.Text, text);
    }

    public static void Add(string text, FieldType type, RowBlock into)
    {
        if (type is not (FieldType.Date or FieldType.Timestamp or FieldType.Uuid or FieldType.Decimal))
        {
            into.AddText(text);
            return;
        }

        Span<byte> room =
            text.Length <= 256 ? stackalloc byte[text.Length * 3] : new byte[Encoding.UTF8.GetMaxByteCount(text.Length)];
        Add(room[..Encoding.UTF8.GetBytes(text, room)], type, into);
    }

    public static void Add(long whole, FieldType type, RowBlock into) =>
        into.AddNumber(type == FieldType.Boolean && whole is 0 or 1 ? CellKind.Boolean : CellKind.Integer, whole);

    public static void Add(Guid uuid, RowBlock into)
    {
        Span<byte> bytes = stackalloc byte[16];
        uuid.TryWriteBytes(bytes, bigEndian: true, out _);
        into.AddRun(CellKind.Uuid, bytes);
    }

    public static void AddBytes(ReadOnlySpan<byte> bytes, FieldType type, RowBlock into) =>
        into.AddRun(type == FieldType.Uuid && bytes.Length == 16 ? CellKind.Uuid : CellKind.Bytes, bytes);

    /// <summary>A date and time as it is stored, with all digits of the second.</summary>
    public static string Stored(DateTime moment) => moment.ToString("yyyy-MM-dd HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture);

    /// <summary>The spellings in which a UUID is searched for: with hyphens, without, in braces.</summary>
    private static bool TryUuid(ReadOnlySpan<byte> text, out Guid uuid)
    {
        uuid = default;
        if (text.Length is not (32 or 36 or 38) || !Ascii.IsValid(text))
            return false;
        Span<char> chars = stackalloc char[38];
        chars = chars[..Encoding.ASCII.GetChars(text, chars)];
        return Guid.TryParseExact(
                chars,
                text.Length switch
                {
                    32 => "N",
                    36 => "D",
                    _ => "B",
                },
                out uuid
            ) && (!chars.ContainsAnyInRange('a', 'f') || !chars.ContainsAnyInRange('A', 'F'));
    }
}
