using System.Text.Json;

namespace Jexa.Service.Contracts;

/// <summary>Writes the shapes that an OpenAPI document is made of, one within the other.</summary>
internal sealed class JsonShape(Utf8JsonWriter json)
{
    public Utf8JsonWriter Json => json;

    public void NullableText() => Array("type", () =>
        {
            json.WriteStringValue("string");
            json.WriteStringValue("null");
        });

    /// <summary>A text that is one of a few.</summary>
    public void Texts(IEnumerable<string> texts)
    {
        json.WriteString("type", "string");
        Strings("enum", texts);
    }

    public void Strings(string name, IEnumerable<string> texts) => Array(name, () =>
        {
            foreach (var text in texts)
                json.WriteStringValue(text);
        });

    /// <summary>A list of things of one shape.</summary>
    public void Many(Action items)
    {
        json.WriteString("type", "array");
        Object("items", items);
    }

    public void Ref(string component) => json.WriteString("$ref", "#/components/" + component);

    public void Object(string name, Action members)
    {
        json.WriteStartObject(name);
        members();
        json.WriteEndObject();
    }

    public void Item(Action members)
    {
        json.WriteStartObject();
        members();
        json.WriteEndObject();
    }

    public void Array(string name, Action items)
    {
        json.WriteStartArray(name);
        items();
        json.WriteEndArray();
    }
}
