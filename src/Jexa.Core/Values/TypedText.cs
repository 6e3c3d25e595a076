using System.Buffers.Text;
using System.Globalization;
using System.Text;

namespace Jexa.Core.Values;

/// <summary>
/// Reads typed values from text, for engines that store dates and decimals as text. A method reads the whole text or refuses it.
/// A value that cannot be read stays text.
/// </summary>
public static class TypedText
{
    /// <summary>Reads an ISO 8601 calendar date such as <c>2024-02-29</c>. Gives days since 0001-01-01.</summary>
    public static bool TryDate(ReadOnlySpan<byte> text, out long days)
    {
        days = 0;
        if (text.Length != 10 || text[4] != '-' || text[7] != '-')
            return false;
        if (!TryDigits(text[..4], out var year) || !TryDigits(text[5..7], out var month) || !TryDigits(text[8..], out var day))
            return false;
        if (year < 1 || month is < 1 or > 12 || day < 1 || day > DateTime.DaysInMonth(year, month))
            return false;
        days = new DateOnly(year, month, day).DayNumber;
        return true;
    }

    /// <summary>
    /// Reads an ISO 8601 date and time without a zone, <c>2024-02-29 12:30[:15[.123]]</c>, with a space or a <c>T</c>. Gives
    /// ticks of 100 ns since 0001-01-01T00:00:00. A date alone is midnight.
    /// </summary>
    public static bool TryTimestamp(ReadOnlySpan<byte> text, out long ticks)
    {
        ticks = 0;
        if (text.Length < 10 || !TryDate(text[..10], out var days))
            return false;
        ticks = days * TimeSpan.TicksPerDay;
        if (text.Length == 10)
            return true;
        if (text[10] is not ((byte)' ' or (byte)'T'))
            return false;
        Span<char> chars = stackalloc char[20];
        var time = text[11..];
        if (time.Length > chars.Length || !Ascii.IsValid(time))
            return false;
        Encoding.ASCII.GetChars(time, chars);
        if (
            !TimeOnly.TryParseExact(
                chars[..time.Length],
                ["HH:mm", "HH:mm:ss", "HH:mm:ss.FFFFFFF"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var parsed
            )
        )
            return false;
        ticks += parsed.Ticks;
        return true;
    }

    /// <summary>Whether the text is a plain decimal number: a sign, digits and one point, but no exponent.</summary>
    public static bool IsDecimal(ReadOnlySpan<byte> text)
    {
        if (text.Length > 0 && text[0] is (byte)'-' or (byte)'+')
            text = text[1..];
        var point = text.IndexOf((byte)'.');
        var whole = point < 0 ? text : text[..point];
        var fraction = point < 0 ? default : text[(point + 1)..];
        if (whole.IsEmpty || (point >= 0 && fraction.IsEmpty))
            return false;
        return whole.IndexOfAnyExceptInRange((byte)'0', (byte)'9') < 0
            && fraction.IndexOfAnyExceptInRange((byte)'0', (byte)'9') < 0;
    }

    private static bool TryDigits(ReadOnlySpan<byte> text, out int value) =>
        Utf8Parser.TryParse(text, out value, out var used) && used == text.Length && text[0] is not ((byte)'-' or (byte)'+');
}
