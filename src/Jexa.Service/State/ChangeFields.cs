using System.Text;
using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Values;

namespace Jexa.Service.State;

/// <summary>
/// The fields of a change as JSON: <c>[{"field": …, "before": …, "after": …}]</c>, each value as it is stored
/// (<see cref="StoredValue"/>); of a secret field <c>{"field": …, "secret": true}</c>.
/// </summary>
internal static class ChangeFields
{
    public static string Write(IReadOnlyList<FieldChange> fields)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartArray();
            foreach (var field in fields)
            {
                json.WriteStartObject();
                json.WriteString("field", field.Field);
                if (field.IsSecret)
                {
                    json.WriteBoolean("secret", true);
                }
                else
                {
                    json.WritePropertyName("before");
                    StoredValue.Write(json, field.Before);
                    json.WritePropertyName("after");
                    StoredValue.Write(json, field.After);
                }

                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        return Encoding.UTF8.GetString(bytes.ToArray());
    }

    public static List<FieldChange> Read(string text)
    {
        using var json = JsonDocument.Parse(text);
        return
        [
            .. json
                .RootElement.EnumerateArray()
                .Select(field =>
                    field.TryGetProperty("secret", out _)
                        ? new FieldChange(
                            field.GetProperty("field").GetString()!,
                            TypedValue.Empty.Value,
                            TypedValue.Empty.Value,
                            true
                        )
                        : new FieldChange(
                            field.GetProperty("field").GetString()!,
                            StoredValue.Read(field.GetProperty("before")),
                            StoredValue.Read(field.GetProperty("after")),
                            false
                        )
                ),
        ];
    }
}
