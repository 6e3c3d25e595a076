using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>
/// What a form carries besides its fields: the intended change, its record, its visitor, and the values it was made from.
/// </summary>
/// <param name="Token">The key of the intended change. A save uses it up.</param>
/// <param name="Page">The page of the form.</param>
/// <param name="Ids">The ID texts of the record; for a new one, of its parent.</param>
/// <param name="Visitor">The secret of the visitor that it was made for.</param>
/// <param name="Base">The stored values it was made from, by field.</param>
/// <param name="Version">The version of the whole record; empty for a new one.</param>
/// <param name="Undecided">Fields that two people changed: the visitor must choose which value stays.</param>
public sealed record FormContract(
    string Token,
    string Page,
    IReadOnlyList<string> Ids,
    string Visitor,
    DateTimeOffset MadeAt,
    IReadOnlyDictionary<string, TypedValue> Base,
    string Version,
    IReadOnlyList<string> Undecided
)
{
    /// <summary>An older form is shown again instead of saved.</summary>
    public static TimeSpan Lifetime { get; } = TimeSpan.FromHours(24);

    /// <summary>A new random token of 128 bits, in hexadecimal digits.</summary>
    public static string NewToken() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    /// <summary>Longer texts are carried as digests, so that the form does not contain them twice.</summary>
    private const int LongText = 4000;

    /// <summary>
    /// What a form carries of a value: the value, or for a secret or long one only what tells whether it changed.
    /// </summary>
    public static TypedValue Carried(string token, bool isSecret, TypedValue value) =>
        isSecret || IsLong(value)
            ? new TypedValue.Bytes(SHA256.HashData(Encoding.UTF8.GetBytes($"{token}\n{value.GetType().Name}\n{value}")))
            : value;

    /// <summary>Whether a value is too long to be carried.</summary>
    public static bool IsLong(TypedValue value) =>
        value is TypedValue.Text { Value.Length: > LongText } or TypedValue.Bytes { Value.Length: > LongText };

    /// <summary>The contract as the form carries it: sealed, so that a changed one is noticed.</summary>
    public string Seal(IFormSeal seal)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            json.WriteString("token", Token);
            json.WriteString("page", Page);
            json.WriteStartArray("ids");
            foreach (var id in Ids)
                json.WriteStringValue(id);
            json.WriteEndArray();
            json.WriteString("visitor", Visitor);
            json.WriteNumber("at", MadeAt.ToUnixTimeSeconds());
            json.WriteString("version", Version);
            json.WriteStartArray("undecided");
            foreach (var field in Undecided)
                json.WriteStringValue(field);
            json.WriteEndArray();
            json.WriteStartObject("base");
            foreach (var (field, value) in Base)
            {
                json.WritePropertyName(field);
                StoredValue.Write(json, value);
            }

            json.WriteEndObject();
            json.WriteEndObject();
        }

        return seal.Seal(bytes.ToArray());
    }

    /// <summary>The contract; null if the text was not made by this service.</summary>
    public static FormContract? Open(IFormSeal seal, string text)
    {
        if (text.Length == 0 || seal.Open(text) is not { } bytes)
            return null;
        using var json = JsonDocument.Parse(bytes);
        var root = json.RootElement;
        return new FormContract(
            root.GetProperty("token").GetString()!,
            root.GetProperty("page").GetString()!,
            [.. root.GetProperty("ids").EnumerateArray().Select(id => id.GetString()!)],
            root.GetProperty("visitor").GetString()!,
            DateTimeOffset.FromUnixTimeSeconds(root.GetProperty("at").GetInt64()),
            root.GetProperty("base").EnumerateObject().ToDictionary(field => field.Name, field => StoredValue.Read(field.Value)),
            root.GetProperty("version").GetString()!,
            [.. root.GetProperty("undecided").EnumerateArray().Select(field => field.GetString()!)]
        );
    }
}
