using System.Globalization;
using System.Text.Json;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>Finds records in answers.</summary>
internal static class ApiRecords
{
    /// <summary>
    /// The records at a JSON Pointer (RFC 6901): those of an array, the members of an object of objects, or a single one.
    /// </summary>
    /// <param name="names">The field that takes the member names; null for none.</param>
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

    /// <summary>The value at a JSON Pointer; null for none.</summary>
    public static JsonElement? At(JsonElement root, string pointer)
    {
        var at = root;
        foreach (var token in JsonPointer.Keys(pointer))
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

    /// <summary>The type of a field, from its values in the records.</summary>
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
