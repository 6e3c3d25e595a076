using System.Globalization;
using System.Text;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>Writes a loaded value as the text of its input. <see cref="FieldReader"/> reads it back as the same value.</summary>
public static class FieldText
{
    /// <summary>The text that the form's input shows for the field of this row.</summary>
    public static string Of(FormField field, Row row) =>
        field.IsWithheld(row) ? StoredValue.WithheldText : OfStored(field, StoredValue.Of(row, field.Stored));

    /// <summary>A value as it is stored.</summary>
    public static string OfStored(FormField field, TypedValue stored) =>
        field.Secret
            ? ""
            : stored switch
            {
                TypedValue.Empty => "",
                TypedValue.Whole { Value: 0 or 1 } truth when field.Type == FieldType.Boolean => truth.Value == 1
                    ? "true"
                    : "false",
                TypedValue.Whole seconds when field.IsEpoch => OfEpoch(field, seconds.Value),
                TypedValue.Real real => OfReal(real.Value),
                TypedValue.Text text
                    when field.Type == FieldType.Timestamp
                        && TypedText.TryTimestamp(Encoding.UTF8.GetBytes(text.Value), out var ticks) => OfMoment(
                    field.Conventions.Shown(new DateTime(ticks))
                ),
                TypedValue.Text text when field.Type == FieldType.Uuid && Guid.TryParse(text.Value, out var uuid) =>
                    uuid.ToString("D"),
                TypedValue.Text text => text.Value.Replace("\r\n", "\n"),
                TypedValue.Bytes { Value: { Length: 16 } bytes } when field.Type == FieldType.Uuid => new Guid(
                    bytes,
                    bigEndian: true
                ).ToString("D"),
                TypedValue.Bytes bytes => field.Input == InputKind.Reference ? bytes.ToString() : "",
                _ => stored.ToString()!,
            };

    /// <summary>
    /// Whether a form sends a text back unchanged. Browsers normalise line ends, remove them in an input of one line, and replace
    /// what HTML cannot contain.
    /// </summary>
    public static bool IsSentBack(FormField field, string shown, string sent)
    {
        if (shown == sent)
            return true;
        var carried = Carried(shown);

        // A text with line breaks gets an input of several lines. If the lines come back joined, that is a change.
        var hasLines = field.Input is InputKind.Text or InputKind.LongText or InputKind.Picture;
        return carried == sent || (!hasLines && carried.Replace("\n", "") == sent);
    }

    private static string Carried(string text)
    {
        var carried = new StringBuilder(text.Length);
        foreach (var rune in text.Replace("\r\n", "\n").EnumerateRunes())
            carried.Append(IsHeldByHtml(rune) ? rune.ToString() : "\uFFFD");
        return carried.ToString();
    }

    /// <summary>
    /// Neither a control character other than tab and line feed, nor a noncharacter (WHATWG HTML, section 13.1.4).
    /// </summary>
    public static bool IsHeldByHtml(Rune rune) =>
        (!Rune.IsControl(rune) || rune.Value is '\t' or '\n')
        && (rune.Value & 0xFFFE) != 0xFFFE
        && rune.Value is < 0xFDD0 or > 0xFDEF;

    /// <summary>A written value as the text of its input.</summary>
    public static string Of(FormField field, TypedValue value) =>
        value switch
        {
            TypedValue.Empty => "",
            TypedValue.Moment moment => OfMoment(field.Conventions.Shown(moment.Value)),
            TypedValue.Whole seconds when field.IsEpoch => OfEpoch(field, seconds.Value),
            TypedValue.Real real => OfReal(real.Value),
            TypedValue.Boolean truth => truth.Value ? "true" : "false",
            _ => value.ToString()!,
        };

    private static string OfEpoch(FormField field, long seconds) =>
        ValueFormat.MomentOf(seconds) is { } moment
            ? OfMoment(field.Conventions.Shown(moment))
            : seconds.ToString(CultureInfo.InvariantCulture);

    /// <summary>Without an exponent if possible, as people write numbers.</summary>
    private static string OfReal(double value) =>
        Math.Abs(value) is < 1e15 and > 1e-6 or 0
            ? ((decimal)value).ToString("0.############################", CultureInfo.InvariantCulture) is var plain
            && double.Parse(plain, CultureInfo.InvariantCulture).Equals(value)
                ? plain
                : value.ToString("R", CultureInfo.InvariantCulture)
            : value.ToString("R", CultureInfo.InvariantCulture);

    private static string OfMoment(DateTime moment) =>
        moment.ToString(
            moment.Ticks % TimeSpan.TicksPerSecond != 0 ? "yyyy-MM-dd'T'HH:mm:ss.FFFFFFF"
                : moment.Second != 0 ? "yyyy-MM-dd'T'HH:mm:ss"
                : "yyyy-MM-dd'T'HH:mm",
            CultureInfo.InvariantCulture
        );
}
