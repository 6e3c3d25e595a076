using System.Globalization;
using System.Text.Json;
using Jexa.Core.Endpoints;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>One record of an answer: its members as text, with the kind that each has in JSON.</summary>
internal sealed record ApiRecord(IReadOnlyDictionary<string, JsonElement> Members)
{
    /// <summary>A member as it is kept: a number or truth value as such, whatever is nested as JSON; null for none.</summary>
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

    /// <summary>Whether the record's key is the one that was asked for, both as the type that the key has.</summary>
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

    /// <summary>A moment with a zone as it is in UTC; any other text as it is.</summary>
    private static string Moment(string text) =>
        text.Length > 19
        && (text.EndsWith('Z') || text.LastIndexOfAny(['+', '-']) > 18)
        && DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var moment)
            ? moment.UtcDateTime.ToString("yyyy-MM-dd HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture)
            : text;
}

/// <summary>Finds records within answers.</summary>
internal static class ApiRecords
{
    /// <summary>
    /// The records where a JSON Pointer (RFC 6901) leads: those of an array, the members of an object of objects, or the one that
    /// is there.
    /// </summary>
    /// <param name="names">The field that takes the members' names; null where they are none.</param>
    public static List<ApiRecord> Of(JsonElement? answer, string pointer, string? names, bool isList)
    {
        if (answer is not { } root || At(root, pointer) is not { } found)
            return [];
        return found.ValueKind switch
        {
            JsonValueKind.Array =>
            [
                .. found
                    .EnumerateArray()
                    .Where(item => item.ValueKind == JsonValueKind.Object)
                    .Select(item => Record(item, null, null)),
            ],
            JsonValueKind.Object
                when names is not null
                    && found.EnumerateObject().All(member => member.Value.ValueKind == JsonValueKind.Object)
                    && (isList || found.EnumerateObject().Any()) =>
            [
                .. found.EnumerateObject().Select(member => Record(member.Value, names, member.Name)),
            ],
            JsonValueKind.Object when !isList && found.EnumerateObject().Any() => [Record(found, null, null)],
            _ => [],
        };
    }

    /// <summary>The value that a JSON Pointer leads to; null where there is none.</summary>
    public static JsonElement? At(JsonElement root, string pointer)
    {
        var at = root;
        foreach (var token in pointer.Split('/').Skip(1).Select(token => token.Replace("~1", "/").Replace("~0", "~")))
        {
            if (at.ValueKind == JsonValueKind.Object && at.TryGetProperty(token, out var member))
                at = member;
            else if (
                at.ValueKind == JsonValueKind.Array
                && int.TryParse(token, NumberStyles.None, CultureInfo.InvariantCulture, out var index)
                && index < at.GetArrayLength()
            )
                at = at[index];
            else
                return null;
        }

        return at;
    }

    /// <summary>The type of a field, by what records hold in it.</summary>
    public static FieldType TypeOf(string field, IEnumerable<ApiRecord> records)
    {
        FieldType? type = null;
        foreach (var record in records)
        {
            if (!record.Members.TryGetValue(field, out var value) || value.ValueKind == JsonValueKind.Null)
                continue;
            var own = value.ValueKind switch
            {
                JsonValueKind.True or JsonValueKind.False => FieldType.Boolean,
                JsonValueKind.Number => value.GetRawText().AsSpan().ContainsAny(".eE") ? FieldType.Decimal : FieldType.Integer,
                JsonValueKind.String => TextType(value.GetString()!),
                _ => FieldType.Text,
            };
            type =
                type is null || type == own ? own
                : (type, own) is (FieldType.Integer, FieldType.Decimal) or (FieldType.Decimal, FieldType.Integer)
                    ? FieldType.Decimal
                : FieldType.Text;
        }

        return type ?? FieldType.Text;
    }

    private static FieldType TextType(string text)
    {
        if (text.Length is < 10 or > 40 || !System.Text.Ascii.IsValid(text))
            return FieldType.Text;
        Span<byte> bytes = stackalloc byte[40];
        bytes = bytes[..System.Text.Encoding.ASCII.GetBytes(text, bytes)];
        return TypedText.TryDate(bytes, out _) ? FieldType.Date
            : text.Length >= 16
            && TypedText.TryTimestamp(bytes[..16], out _)
            && DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out _)
                ? FieldType.Timestamp
            : Guid.TryParseExact(text, "D", out _) ? FieldType.Uuid
            : FieldType.Text;
    }

    private static ApiRecord Record(JsonElement item, string? names, string? name)
    {
        var members = item.EnumerateObject()
            .GroupBy(member => member.Name)
            .ToDictionary(group => group.Key, group => group.Last().Value);
        if (names is not null)
            members[names] = JsonSerializer.SerializeToElement(name);
        return new ApiRecord(members);
    }
}
