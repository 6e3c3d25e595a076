using System.Globalization;
using System.Text;

namespace Jexa.Core.Formats;

/// <summary>How an app writes numbers, dates and moments: the signs and words of its locale, and its time zone.</summary>
public sealed class Conventions
{
    private readonly byte[][] _months;
    private readonly string[] _monthsAlone;

    /// <param name="culture">Whose number signs and month names are used.</param>
    /// <param name="zone">Where moments, which the source keeps in UTC, are shown; null to show them as they are kept.</param>
    public Conventions(CultureInfo culture, TimeZoneInfo? zone)
    {
        Language = culture.Name.Length == 0 ? "en" : culture.Name;
        Zone = zone;
        Numbers = culture.NumberFormat;
        var names = culture.Name.Length == 0 ? culture.DateTimeFormat.MonthNames : culture.DateTimeFormat.MonthGenitiveNames;
        _months = [.. names.Take(12).Select(Encoding.UTF8.GetBytes)];
        _monthsAlone = culture.DateTimeFormat.MonthNames;
        DecimalMark = Encoding.UTF8.GetBytes(Numbers.NumberDecimalSeparator);
        GroupMark = Encoding.UTF8.GetBytes(Numbers.NumberGroupSeparator);
    }

    /// <summary>English words, a point, and moments as the source has them.</summary>
    public static Conventions Default { get; } = new(CultureInfo.InvariantCulture, null);

    /// <summary>The language of the app's pages (BCP 47).</summary>
    public string Language { get; }

    public TimeZoneInfo? Zone { get; }

    public NumberFormatInfo Numbers { get; }

    public byte[] DecimalMark { get; }

    public byte[] GroupMark { get; }

    /// <summary>The name of a month, from 1, as it stands in a date.</summary>
    public ReadOnlySpan<byte> Month(int month) => _months[month - 1];

    /// <summary>The name of a month, from 1, as it stands by itself or before a year.</summary>
    public string MonthAlone(int month) => _monthsAlone[month - 1];

    /// <summary>A moment as the app's clocks show it.</summary>
    public DateTime Shown(DateTime moment) =>
        Zone is null ? moment : TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(moment, DateTimeKind.Utc), Zone);

    /// <summary>
    /// Converts local time to stored time; null inside a daylight-saving gap. Of a time that occurs twice, the first.
    /// </summary>
    public DateTime? Kept(DateTime local)
    {
        if (Zone is null)
            return local;
        if (Zone.IsInvalidTime(local))
            return null;
        var offset = Zone.IsAmbiguousTime(local) ? Zone.GetAmbiguousTimeOffsets(local).Max() : Zone.GetUtcOffset(local);
        return local.Ticks - offset.Ticks is > 0 and var kept && kept < DateTime.MaxValue.Ticks ? new DateTime(kept) : local;
    }

    /// <summary>The moment, as the source keeps it, at which a day of the app's clocks begins.</summary>
    public DateTime Kept(DateOnly day)
    {
        var local = day.ToDateTime(TimeOnly.MinValue);
        if (Zone is null)
            return local;

        // Where clocks are put forward at midnight the day begins at the first moment that exists.
        while (Zone.IsInvalidTime(local))
            local = local.AddMinutes(15);
        return TimeZoneInfo.ConvertTimeToUtc(local, Zone);
    }
}
