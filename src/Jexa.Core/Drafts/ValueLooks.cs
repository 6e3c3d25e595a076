using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>Tells what the values of a column look like. One exception is enough for <see cref="ValueLook.Plain"/>.</summary>
public static partial class ValueLooks
{
    /// <summary>Fewer values may agree by chance.</summary>
    private const int FewestValues = 2;

    /// <summary>September 2001 to October 2096: numbers of ten digits.</summary>
    private const long FirstEpoch = 1_000_000_000;
    private const long LastEpoch = 4_000_000_000;

    private static readonly string[] PictureEndings = [".png", ".jpg", ".jpeg", ".gif", ".webp", ".avif", ".svg"];

    private static readonly string[] MomentWords =
    [
        "time",
        "at",
        "on",
        "date",
        "clock",
        "since",
        "until",
        "expires",
        "expiry",
        "timestamp",
        "created",
        "updated",
        "changed",
        "modified",
        "accessed",
        "seen",
        "start",
        "end",
        "lastaccess",
    ];

    private static readonly string[] MoneyWords =
    [
        "price",
        "amount",
        "cost",
        "costs",
        "total",
        "subtotal",
        "fee",
        "balance",
        "salary",
        "budget",
        "tax",
        "discount",
        "payment",
        "paid",
        "charge",
        "revenue",
    ];

    /// <param name="values">The column's filled values.</param>
    public static ValueLook Of(ColumnSchema column, IReadOnlyList<TypedValue> values)
    {
        if (values.Count < FewestValues)
            return ValueLook.Plain;
        var words = Labels.OfRecord(column.Name).Split(' ');
        if (column.Type == FieldType.Integer)
            return
                words.Any(MomentWords.Contains)
                && values.All(value => value is TypedValue.Whole { Value: >= FirstEpoch and <= LastEpoch })
                ? ValueLook.Epoch
                : ValueLook.Plain;
        if (column.Type is FieldType.Real or FieldType.Decimal)
            return words.Any(MoneyWords.Contains) && values.All(HasTwoDecimals) ? ValueLook.Money : ValueLook.Plain;
        if (column.Type != FieldType.Text || column.Rules.OneOf is not null || !values.All(value => value is TypedValue.Text))
            return ValueLook.Plain;
        var texts = values.Select(value => ((TypedValue.Text)value).Value).ToList();
        return texts.TrueForAll(IsWeb)
            ? texts.TrueForAll(text => IsPicture(new Uri(text).AbsolutePath))
                ? ValueLook.WebPicture
                : ValueLook.Web
            : texts.TrueForAll(text => MailAddress().IsMatch(text))
                ? ValueLook.Mail
                : texts.TrueForAll(text => IsPicture(text) && !text.Contains("://", StringComparison.Ordinal))
                    ? ValueLook.PictureName
                    : texts.TrueForAll(IsJson)
                        ? ValueLook.Json
                        : ValueLook.Plain;
    }

    private static bool HasTwoDecimals(TypedValue value) =>
        decimal.TryParse(value.ToString(), NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
        && decimal.Round(number, 2) == number;

    private static bool IsWeb(string text) =>
        !text.Contains(' ')
        && Uri.TryCreate(text, UriKind.Absolute, out var uri)
        && uri.Scheme is "http" or "https"
        && uri.Host.Length > 0
        && uri.UserInfo.Length == 0;

    private static bool IsPicture(string name) =>
        PictureEndings.Any(ending => name.Length > ending.Length && name.EndsWith(ending, StringComparison.OrdinalIgnoreCase));

    private static bool IsJson(string text)
    {
        if (text.TrimStart() is not ['{' or '[', ..])
            return false;
        try
        {
            using var document = JsonDocument.Parse(text);
            return true;
        }
        catch (JsonException)
        {
            return false;
        }
    }

    [GeneratedRegex(@"^[^@\s<>,;]+@[^@\s<>,;]+\.[^@\s<>,;.]+$")]
    private static partial Regex MailAddress();
}
