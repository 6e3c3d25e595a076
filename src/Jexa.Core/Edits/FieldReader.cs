using System.Globalization;
using System.Text;
using System.Text.Json;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>Reads what was sent for a field as a value of its type, and checks it against its rules. Never throws.</summary>
public static class FieldReader
{
    private const int ShownText = 40;

    /// <summary>The most characters of a text without a limit of its own.</summary>
    private const int MostCharacters = 200_000;

    /// <param name="written">How numbers are written in messages; null for a decimal point.</param>
    public static FieldReading Read(FormField field, string text, Conventions? written = null)
    {
        written ??= Conventions.Default;
        if (
            field.Input is not InputKind.LongText and not InputKind.Text
            && field.Type is not FieldType.Text and not FieldType.Any
        )
            text = text.Trim();
        if (text.Length == 0 || (field.Rules.Required && string.IsNullOrWhiteSpace(text)))
        {
            if (field.Rules.Required)
                return FieldReading.Failed(
                    field.Input is InputKind.Choice or InputKind.Reference ? "Please choose one." : "Please fill this in."
                );
            return FieldReading.Of(field.KeepsEmptyText ? new TypedValue.Text("") : TypedValue.Empty.Value);
        }

        if (field.Choices.Count > 0 && !field.Choices.Any(choice => choice.Value == text))
            return FieldReading.Failed($"“{Cut(text)}” cannot be chosen here.");
        return field.Type switch
        {
            FieldType.Integer when field.IsEpoch && !IsDigits(text) => Epoch(field, text, written),
            FieldType.Integer => Whole(field, text, written),
            FieldType.Decimal => Decimal(field, text, written),
            FieldType.Real => Real(field, text, written),
            FieldType.Boolean => text is "true" or "false"
                ? FieldReading.Of(new TypedValue.Boolean(text == "true"))
                : FieldReading.Failed("Please choose yes or no."),
            FieldType.Date => Date(field, text),
            FieldType.Timestamp => Moment(field, text),
            FieldType.Uuid => UuidKey.Instance.Read(text) is { Value: { } uuid }
                ? FieldReading.Of(uuid)
                : FieldReading.Failed($"“{Cut(text)}” is not a UUID."),
            FieldType.Bytes => field.Input == InputKind.Reference && BytesKey.Instance.Read(text).Value is { } bytes
                ? FieldReading.Of(bytes)
                : FieldReading.Failed("This cannot be written here."),
            _ => Text(field, text),
        };
    }

    /// <summary>A moment as whole seconds since 1970. Programs send the number itself.</summary>
    private static FieldReading Epoch(FormField field, string text, Conventions written)
    {
        var reading = Moment(field, text);
        return reading.Value is TypedValue.Moment moment
            ? Whole(
                field,
                ((moment.Value - DateTime.UnixEpoch).Ticks / TimeSpan.TicksPerSecond).ToString(CultureInfo.InvariantCulture),
                written
            )
            : reading;
    }

    private static FieldReading Whole(FormField field, string text, Conventions written)
    {
        if (!long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number))
            return FieldReading.Failed(IsDigits(text) ? "This number is too large." : $"“{Cut(text)}” is not a whole number.");
        if (number < field.Column.Min || number > field.Column.Max)
            return FieldReading.Failed("This number is too large.");
        return Limit(field, number, written) is { } fault
            ? FieldReading.Failed(fault)
            : FieldReading.Of(new TypedValue.Whole(number));
    }

    private static FieldReading Decimal(FormField field, string text, Conventions written)
    {
        if (!TypedText.IsDecimal(Encoding.UTF8.GetBytes(text)))
            return FieldReading.Failed($"“{Cut(text)}” is not a number; write one like {NumberText.Example(written)}.");
        if (
            text.Length > 64
            || !decimal.TryParse(
                text,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return FieldReading.Failed("This number has too many digits.");
        number = decimal.Parse(
            number.ToString("0.############################", CultureInfo.InvariantCulture),
            CultureInfo.InvariantCulture
        );
        if (field.Rules.Scale is { } scale && number.Scale > scale)
            return FieldReading.Failed(
                scale == 0
                    ? "Please write it without digits behind the point."
                    : $"Please write it with at most {scale} {(scale == 1 ? "digit" : "digits")} behind the point."
            );
        if (field.Rules.Precision is { } precision && Math.Abs(number) >= Power(precision - (field.Rules.Scale ?? 0)))
            return FieldReading.Failed("This number has too many digits.");
        return Limit(field, number, written) is { } fault
            ? FieldReading.Failed(fault)
            : FieldReading.Of(new TypedValue.Number(number));
    }

    private static decimal Power(int digits)
    {
        var power = 1m;
        for (var i = 0; i < Math.Min(digits, 28); i++)
            power *= 10;
        return power;
    }

    private static FieldReading Real(FormField field, string text, Conventions written)
    {
        if (
            text.Length > 64
            || !double.TryParse(
                text,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint | NumberStyles.AllowExponent,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return FieldReading.Failed($"“{Cut(text)}” is not a number; write one like {NumberText.Example(written)}.");
        if (!double.IsFinite(number))
            return FieldReading.Failed("This number is too large.");
        return Math.Abs(number) < 1e27 && Limit(field, (decimal)number, written) is { } fault
            ? FieldReading.Failed(fault)
            : FieldReading.Of(new TypedValue.Real(number));
    }

    private static string? Limit(FormField field, decimal number, Conventions written) =>
        number < field.Rules.Least ? $"This must be {Shown(field.Rules.Least.Value, written)} or more."
        : number > field.Rules.Most ? $"This must be {Shown(field.Rules.Most.Value, written)} or less."
        : null;

    private static string Shown(decimal number, Conventions written) =>
        number.ToString("0.############################", written.Numbers);

    private static FieldReading Date(FormField field, string text)
    {
        if (DateKey.Instance.Read(text).Value is not TypedValue.Date date)
            return FieldReading.Failed($"“{Cut(text)}” is not a date; write one like 2024-02-29.");
        return Limit(field, date.Value.ToDateTime(TimeOnly.MinValue), "yyyy-MM-dd") is { } fault
            ? FieldReading.Failed(fault)
            : FieldReading.Of(date);
    }

    private static FieldReading Moment(FormField field, string text)
    {
        if (!TypedText.TryTimestamp(Encoding.UTF8.GetBytes(text), out var ticks))
            return FieldReading.Failed($"“{Cut(text)}” is not a date with a time; write one like 2024-02-29T14:30.");
        if (field.Conventions.Kept(new DateTime(ticks)) is not { } kept)
            return FieldReading.Failed("On that day the clocks skip this time.");
        return Limit(field, new DateTime(ticks), "yyyy-MM-dd HH:mm") is { } fault
            ? FieldReading.Failed(fault)
            : FieldReading.Of(new TypedValue.Moment(kept));
    }

    private static string? Limit(FormField field, DateTime moment, string form) =>
        moment < field.Rules.First
            ? $"This must not be before {field.Rules.First.Value.ToString(form, CultureInfo.InvariantCulture)}."
        : moment > field.Rules.Last
            ? $"This must not be after {field.Rules.Last.Value.ToString(form, CultureInfo.InvariantCulture)}."
        : null;

    private static FieldReading Text(FormField field, string text)
    {
        foreach (var c in text)
            if (
                char.IsControl(c)
                && (c is not ('\n' or '\r' or '\t') || (c != '\t' && field.Input is not (InputKind.LongText or InputKind.Text)))
            )
                return FieldReading.Failed("This holds a character that cannot be kept here.");
        if (Characters(text) is var length && length > (field.Rules.MaxLength ?? MostCharacters))
            return FieldReading.Failed(
                $"This is {length:N0} characters long; {field.Rules.MaxLength ?? MostCharacters:N0} is the most."
            );
        if (field.Rules.Pattern?.IsMatch(text) == false)
            return FieldReading.Failed(
                field.Rules.Example is { } example
                    ? $"This must look like {example}."
                    : $"This must be of the form {field.Rules.PatternText}."
            );
        if (field.IsJson && JsonFault(text) is { } fault)
            return FieldReading.Failed(fault);
        return FieldReading.Of(new TypedValue.Text(text));
    }

    private static string? JsonFault(string text)
    {
        try
        {
            using var document = JsonDocument.Parse(text);
            return null;
        }
        catch (JsonException wrong)
        {
            return $"This is not JSON from line {(wrong.LineNumber ?? 0) + 1} on.";
        }
    }

    private static int Characters(string text)
    {
        var count = 0;
        foreach (var _ in text.EnumerateRunes())
            count++;
        return count;
    }

    private static bool IsDigits(string text) =>
        text.AsSpan().TrimStart("+-").ContainsAnyExceptInRange('0', '9') == false && text.Length > 0;

    private static string Cut(string text) =>
        text.Length <= ShownText ? text : text[..(char.IsHighSurrogate(text[ShownText - 1]) ? ShownText - 1 : ShownText)] + "…";
}
