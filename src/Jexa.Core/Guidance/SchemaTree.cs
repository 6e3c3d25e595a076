using System.Text.Json;

namespace Jexa.Core.Guidance;

/// <summary>The JSON Schema of app files (draft-07), asked by places.</summary>
public sealed class SchemaTree
{
    private readonly JsonElement _root;

    /// <summary>Reads the schema.</summary>
    public SchemaTree(ReadOnlyMemory<byte> json) => _root = JsonDocument.Parse(json).RootElement;

    /// <summary>The keys that the mapping at a place can have, with what they mean.</summary>
    public IReadOnlyList<Choice> Keys(IReadOnlyList<string> place) =>
        [
            .. Parts(place)
                .SelectMany(part => part.TryGetProperty("properties", out var keys) ? keys.EnumerateObject() : [])
                .DistinctBy(key => key.Name)
                .Select(key => new Choice(key.Name, Text(key.Value, "description") ?? "")),
        ];

    /// <summary>The words that the value at a place can be; empty if it can be anything.</summary>
    public IReadOnlyList<string> Words(IReadOnlyList<string> place) =>
        [
            .. Parts(place)
                .SelectMany(part => part.TryGetProperty("enum", out var words) ? words.EnumerateArray() : [])
                .Select(word => word.ToString().ToLowerInvariant())
                .Distinct(),
        ];

    /// <summary>Whether the value at a place is a mapping or a list, and nothing else.</summary>
    public bool IsNested(IReadOnlyList<string> place) =>
        Parts(place).ToList() is { Count: > 0 } parts && parts.TrueForAll(part => Text(part, "type") is "object" or "array");

    /// <summary>What the key at a place means. Null if the schema says nothing of it.</summary>
    public string? Meaning(IReadOnlyList<string> place)
    {
        if (place.Count == 0)
            return Text(_root, "description");
        return Parts([.. place.Take(place.Count - 1)])
            .Where(part => part.TryGetProperty("properties", out var keys) && keys.TryGetProperty(place[^1], out _))
            .Select(part => Text(part.GetProperty("properties").GetProperty(place[^1]), "description"))
            .FirstOrDefault(text => text is not null);
    }

    /// <summary>The schemas that hold at a place: one, or each of several alternatives.</summary>
    private IEnumerable<JsonElement> Parts(IReadOnlyList<string> place)
    {
        IEnumerable<JsonElement> parts = Resolved(_root);
        foreach (var step in place)
            parts = parts.SelectMany(part => Below(part, step)).SelectMany(Resolved).ToList();
        return parts;
    }

    private static IEnumerable<JsonElement> Below(JsonElement part, string step)
    {
        if (part.TryGetProperty("properties", out var keys) && keys.TryGetProperty(step, out var key))
            yield return key;
        else if (part.TryGetProperty("additionalProperties", out var more) && more.ValueKind == JsonValueKind.Object)
            yield return more;
        if (part.TryGetProperty("items", out var items) && int.TryParse(step, out _))
            yield return items;
    }

    /// <summary>A schema with its reference followed and its alternatives apart.</summary>
    private IEnumerable<JsonElement> Resolved(JsonElement schema)
    {
        if (Text(schema, "$ref") is { } reference)
            return Resolved(_root.GetProperty("definitions").GetProperty(reference[(reference.LastIndexOf('/') + 1)..]));
        return schema.TryGetProperty("anyOf", out var parts) ? parts.EnumerateArray().SelectMany(Resolved) : [schema];
    }

    private static string? Text(JsonElement schema, string key) =>
        schema.TryGetProperty(key, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
}
