using System.Globalization;
using System.Text.Json;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>One record of an answer: its members as text, each with its JSON kind.</summary>
internal sealed record ApiRecord(IReadOnlyDictionary<string, JsonElement> Members)
{
    /// <summary>A member as it is stored: numbers and booleans as such, nested values as JSON; null for none.</summary>
    public object? Kept(string field, FieldType type) =>
        !Members.TryGetValue(field, out var value)
            ? null
            : value.ValueKind switch
            {
                JsonValueKind.Null or JsonValueKind.Undefined => null,
                JsonValueKind.True => 1L,
                JsonValueKind.False => 0L,
                JsonValueKind.Number when type == FieldType.Text => value.GetRawText(),
                JsonValueKind.Number => value.TryGetInt64(out var whole) && !value.GetRawText().AsSpan().ContainsAny(".eE")
                    ? whole
                    : value.GetRawText(),
                JsonValueKind.String
                    when type == FieldType.Integer
                        && long.TryParse(
                            value.GetString(),
                            NumberStyles.AllowLeadingSign,
                            CultureInfo.InvariantCulture,
                            out var whole
                        ) => whole,
                JsonValueKind.String when type == FieldType.Timestamp => Moment(value.GetString()!),
                JsonValueKind.String => value.GetString(),
                _ => value.GetRawText(),
            };

    /// <summary>Whether the record has the key that was asked for, compared by the key's type.</summary>
    public bool Has(string field, FieldType type, string asked)
    {
        if (Kept(field, type) is not { } kept)
            return false;
        var text = Convert.ToString(kept, CultureInfo.InvariantCulture)!;
        return type switch
        {
            FieldType.Integer => kept is long whole
                && long.TryParse(asked, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number)
                && whole == number,
            FieldType.Uuid => Guid.TryParse(text, out var one) && Guid.TryParse(asked, out var other) && one == other,
            _ => text == asked,
        };
    }

    /// <summary>A moment with a zone, in UTC. Other text is unchanged.</summary>
    private static string Moment(string text) =>
        text.Length > 19
        && (text.EndsWith('Z') || text.LastIndexOfAny(['+', '-']) > 18)
        && DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var moment)
            ? moment.UtcDateTime.ToString("yyyy-MM-dd HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture)
            : text;
}
