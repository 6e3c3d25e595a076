using System.Text.Json.Nodes;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Management;

/// <summary>What stands at a place of the app file.</summary>
/// <param name="Place">The place: a JSON Pointer (RFC 6901).</param>
/// <param name="Said">Whether anything stands there.</param>
/// <param name="Value">A text, a list or an object, as the file has it. Null if nothing stands there.</param>
public sealed record ValueInfo(string Place, bool Said, JsonNode? Value)
{
    internal static ValueInfo Of(string place, FileValue? value) =>
        new(place, value is not null, value is null ? null : Json(value));

    private static JsonNode? Json(FileValue value) =>
        value switch
        {
            FileValue.Text { IsNothing: true } => null,
            FileValue.Text text => JsonValue.Create(text.Value),
            FileValue.List list => new JsonArray([.. list.Items.Select(Json)]),
            FileValue.Map map => new JsonObject(map.Entries.Select(entry => KeyValuePair.Create(entry.Key, Json(entry.Value)))),
            _ => throw new ArgumentOutOfRangeException(nameof(value)),
        };
}
