using System.Globalization;
using System.Text;

namespace Jexa.Core.Formats;

/// <summary>How an app writes numbers, dates and moments: by its locale and its time zone.</summary>
public sealed class Conventions
{
    private readonly byte[][] _months;
    private readonly string[] _monthsAlone;

    /// <param name="culture">Gives number signs and month names.</param>
    /// <param name="zone">
    /// The zone in which moments are shown. Sources keep moments in UTC. Null to show them as they are stored.
    /// </param>
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

    /// <summary>English words, a decimal point, and moments as they are stored.</summary>
    public static Conventions Default { get; } = new(CultureInfo.InvariantCulture, null);

    /// <summary>The language of the app's pages (BCP 47).</summary>
    public string Language { get; }

    /// <summary>The time zone of moments. Null if moments are shown in UTC.</summary>
    public TimeZoneInfo? Zone { get; }

    /// <summary>How numbers are written in the app's locale.</summary>
    public NumberFormatInfo Numbers { get; }

    /// <summary>The decimal mark, in UTF-8.</summary>
    public byte[] DecimalMark { get; }

    /// <summary>The mark between groups of three digits, in UTF-8.</summary>
    public byte[] GroupMark { get; }

    /// <summary>The name of a month, from 1, inside a date.</summary>
    public ReadOnlySpan<byte> Month(int month) => _months[month - 1];

    /// <summary>The name of a month, from 1, by itself or before a year.</summary>
    public string MonthAlone(int month) => _monthsAlone[month - 1];

    /// <summary>Converts stored time to local time.</summary>
    public DateTime Shown(DateTime moment) =>
        Zone is null ? moment : TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(moment, DateTimeKind.Utc), Zone);

    /// <summary>
    /// Converts local time to stored time; null inside a daylight-saving gap. If a time occurs twice, the first one counts.
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

    /// <summary>The stored moment at which a local day begins.</summary>
    public DateTime Kept(DateOnly day)
    {
        var local = day.ToDateTime(TimeOnly.MinValue);
        if (Zone is null)
            return local;

        // If the clocks go forward at midnight, the day begins at the first moment that exists.
        while (Zone.IsInvalidTime(local))
            local = local.AddMinutes(15);
        return TimeZoneInfo.ConvertTimeToUtc(local, Zone);
    }
}
