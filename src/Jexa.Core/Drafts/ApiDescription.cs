using System.Text.Json;
using System.Text.Json.Nodes;
using Jexa.Core.Definitions;
using Jexa.Core.Endpoints;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>
/// What an OpenAPI description (3.0 or 3.1, JSON or YAML) says about records: where lists and single records are, and what they
/// contain.
/// </summary>
/// <param name="Doubts">What cannot be used, and why.</param>
/// <param name="Version">Its OpenAPI version; null if it is not an OpenAPI description.</param>
public sealed record ApiDescription(
    string? Version,
    string? Title,
    IReadOnlyList<ApiEndpoint> Endpoints,
    IReadOnlyList<string> Doubts
)
{
    private static readonly string[] Wrappers =
    [
        "data",
        "item",
        "items",
        "result",
        "results",
        "record",
        "records",
        "value",
        "values",
        "content",
    ];

    /// <summary>Reads a description. Never throws: other documents have no version.</summary>
    public static ApiDescription Read(ReadOnlyMemory<byte> text)
    {
        if (
            Parsed(text) is not { ValueKind: JsonValueKind.Object } root
            || !root.TryGetProperty("openapi", out var version)
            || version.ValueKind != JsonValueKind.String
            || !root.TryGetProperty("paths", out var paths)
            || paths.ValueKind != JsonValueKind.Object
        )
            return new ApiDescription(null, null, [], []);
        var title =
            root.TryGetProperty("info", out var info)
            && info.ValueKind == JsonValueKind.Object
            && info.TryGetProperty("title", out var said)
            && said.ValueKind == JsonValueKind.String
                ? said.GetString()
                : null;
        return new Reader(root).Read(version.GetString()!, title, paths);
    }

    private static JsonElement? Parsed(ReadOnlyMemory<byte> text)
    {
        try
        {
            return JsonDocument.Parse(text, new JsonDocumentOptions { MaxDepth = 256 }).RootElement;
        }
        catch (JsonException)
        {
            return AppFileTree.Read("", text.Span, new FindingList()) is { } tree
                ? JsonSerializer.SerializeToElement(Of(tree))
                : null;
        }
    }

    /// <summary>YAML as JSON. Every scalar is text, which is enough here.</summary>
    private static JsonNode? Of(Node node) =>
        node switch
        {
            ScalarNode scalar => scalar.IsPlain && scalar.Text.Value == "true"
                ? JsonValue.Create(true)
                : JsonValue.Create(scalar.Text.Value),
            SequenceNode sequence => new JsonArray([.. sequence.Items.Select(Of)]),
            MappingNode mapping => new JsonObject(
                mapping
                    .Entries.Where(entry => entry.Key is ScalarNode)
                    .Select(entry => KeyValuePair.Create(((ScalarNode)entry.Key).Text.Value, Of(entry.Value)))
            ),
            _ => null,
        };

    /// <summary>A path that answers with records.</summary>
    private sealed record Found(
        string Path,
        string Pointer,
        JsonElement Schema,
        bool IsList,
        bool IsNamed,
        IReadOnlyList<string> Query
    );

    private sealed class Reader(JsonElement root)
    {
        private const int MostSteps = 20;
        private readonly List<string> _doubts = [];

        public ApiDescription Read(string version, string? title, JsonElement paths)
        {
            var found = paths.EnumerateObject().Select(path => FoundAt(path.Name, path.Value)).OfType<Found>().ToList();
            var endpoints = new List<ApiEndpoint>();
            var names = new HashSet<string>();
            var items = found.Where(one => !one.IsList).ToList();
            foreach (var list in found.Where(one => one.IsList && !one.Path.Contains('{')))
            {
                var item = items.Find(one =>
                    ParametersOf(one.Path) is [_] && one.Path.StartsWith(list.Path.TrimEnd('/') + "/{", StringComparison.Ordinal)
                );
                if (item is not null)
                    items.Remove(item);
                Add(endpoints, names, list, item);
            }

            foreach (var item in items)
            {
                if (ParametersOf(item.Path) is [_])
                    Add(endpoints, names, null, item);
                else
                    _doubts.Add(
                        $"{item.Path} leads to one record by "
                            + $"{(ParametersOf(item.Path).Count == 0 ? "nothing" : "several parameters")}; it is left out."
                    );
            }

            foreach (var list in found.Where(one => one.IsList && one.Path.Contains('{')))
                _doubts.Add($"{list.Path} lists records below another one; it is left out.");
            return new ApiDescription(version, title, endpoints, _doubts);
        }

        private void Add(List<ApiEndpoint> endpoints, HashSet<string> names, Found? list, Found? item)
        {
            var path = (list ?? item!).Path;
            var name = NameOf(path, names);
            var fields = FieldsOf(item?.Schema ?? list!.Schema);
            if (list is not null)
                foreach (var (field, type) in FieldsOf(list.Schema))
                    fields.TryAdd(field, type);
            var parameter = item is null ? null : ParametersOf(item.Path)[0];
            var key = parameter is null ? KeyAmong(fields.Keys, name) : FieldOf(parameter, fields.Keys, name);
            string? named = null;
            if (list is { IsNamed: true })
            {
                named = key is not null && fields.ContainsKey(key) ? key : parameter ?? "key";
                fields.TryAdd(named, FieldType.Text);
                key = named;
            }

            if (item is not null && key is null)
            {
                _doubts.Add(
                    $"{item.Path}: none of the record's fields is called like {{{parameter}}}, so nobody can tell "
                        + $"what it stands for; records of {name} have no page of their own."
                );
                item = null;
            }

            if (list is null && item is null)
                return;
            if (fields.Count == 0)
            {
                _doubts.Add($"{path} does not say what its records hold; it is left out.");
                return;
            }

            names.Add(name);
            var (called, paging) = PagingOf(list);
            endpoints.Add(
                new ApiEndpoint(
                    name,
                    item?.Path.Replace($"{{{parameter}}}", $"{{{key}}}"),
                    called,
                    item?.Pointer ?? "",
                    list?.Pointer ?? "",
                    named,
                    key is null ? [] : [key],
                    paging,
                    60,
                    10_000,
                    fields
                )
            );
        }

        /// <summary>How a list is called, page by page.</summary>
        private static (string? Template, ApiPaging Paging) PagingOf(Found? list) =>
            list is null ? (null, ApiPaging.Links)
            : list.Query.Contains("page") ? (list.Path + "{?page}", ApiPaging.Page)
            : list.Query.Contains("offset") ? (list.Path + "{?offset}", ApiPaging.Offset)
            : (list.Path, ApiPaging.Links);

        /// <summary>What the GET of a path answers with, if that is records.</summary>
        private Found? FoundAt(string path, JsonElement operations)
        {
            if (Member(operations, "get") is not { } get || ApiTemplate.FaultOf(path) is not null)
                return null;
            var parameters = Items(Member(operations, "parameters"))
                .Concat(Items(Member(get, "parameters")))
                .Select(Resolved)
                .ToList();
            var query = parameters.Where(parameter => Text(parameter, "in") == "query").ToList();
            if (
                query.Find(parameter => Member(parameter, "required") is { ValueKind: JsonValueKind.True }) is
                { ValueKind: JsonValueKind.Object } must
            )
            {
                _doubts.Add($"{path} wants the parameter {Text(must, "name")}, which cannot be guessed; it is left out.");
                return null;
            }

            if (AnswerOf(get) is not { } schema)
                return null;
            var names = query.Select(parameter => Text(parameter, "name")).OfType<string>().ToList();
            return Unwrapped(schema) is var (pointer, inner, isList, isNamed) && inner.ValueKind == JsonValueKind.Object
                ? new Found(path, pointer, inner, isList, isNamed, names)
                : null;
        }

        private JsonElement? AnswerOf(JsonElement operation)
        {
            if (Member(operation, "responses") is not { ValueKind: JsonValueKind.Object } responses)
                return null;
            foreach (var status in (string[])["200", "2XX", "default"])
            {
                if (
                    Member(responses, status) is not { } response
                    || Member(Resolved(response), "content") is not { ValueKind: JsonValueKind.Object } content
                )
                    continue;
                foreach (
                    var type in content
                        .EnumerateObject()
                        .Where(type => type.Name.Contains("json", StringComparison.OrdinalIgnoreCase))
                )
                    if (Member(type.Value, "schema") is { } schema)
                        return Whole(schema);
            }

            return null;
        }

        /// <summary>The schema of one record, and the JSON Pointer to the record or to the list of records.</summary>
        private (string Pointer, JsonElement Schema, bool IsList, bool IsNamed) Unwrapped(JsonElement schema)
        {
            if (ItemsOf(schema) is { } rows)
                return ("", rows, true, false);
            if (NamedOf(schema) is { } named)
                return ("", named, true, true);
            var properties = PropertiesOf(schema).ToList();
            var lists = properties.Where(property => ItemsOf(property.Schema) is not null).ToList();
            var wrapped =
                lists.Find(property => Wrappers.Contains(property.Name.ToLowerInvariant())) is { Name: not null } known ? known
                : lists.Count == 1
                && properties.TrueForAll(property => property.Name == lists[0].Name || IsAboutPaging(property.Name))
                    ? lists[0]
                : default;
            if (wrapped.Name is not null)
                return ("/" + JsonPointer.Escaped(wrapped.Name), ItemsOf(wrapped.Schema)!.Value, true, false);
            var inner = properties.Find(property =>
                Wrappers.Contains(property.Name.ToLowerInvariant()) && PropertiesOf(property.Schema).Any()
            );
            return inner.Name is not null && properties.Count <= 3
                    ? ("/" + JsonPointer.Escaped(inner.Name), inner.Schema, false, false)
                : properties.Count > 0 ? ("", schema, false, false)
                : default;
        }

        private static bool IsAboutPaging(string name) =>
            name.ToLowerInvariant()
                is "count"
                    or "total"
                    or "page"
                    or "pages"
                    or "size"
                    or "limit"
                    or "offset"
                    or "next"
                    or "previous"
                    or "prev"
                    or "first"
                    or "last"
                    or "links"
                    or "meta"
                    or "has_more"
                    or "hasmore";

        private JsonElement? ItemsOf(JsonElement schema) =>
            HasType(schema, "array")
            && Member(schema, "items") is { } items
            && Whole(items) is var whole
            && PropertiesOf(whole).Any()
                ? whole
                : null;

        private JsonElement? NamedOf(JsonElement schema) =>
            HasType(schema, "object")
            && Member(schema, "properties") is null
            && Member(schema, "additionalProperties") is { ValueKind: JsonValueKind.Object } others
            && Whole(others) is var whole
            && PropertiesOf(whole).Any()
                ? whole
                : null;

        private Dictionary<string, FieldType> FieldsOf(JsonElement schema) =>
            PropertiesOf(schema)
                .Where(property => !HasType(property.Schema, "array") && !HasType(property.Schema, "object"))
                .GroupBy(property => property.Name)
                .ToDictionary(group => group.Key, group => TypeOf(group.First().Schema));

        private static FieldType TypeOf(JsonElement schema) =>
            HasType(schema, "integer") ? FieldType.Integer
            : HasType(schema, "number")
                ? Text(schema, "format") is "double" or "float" ? FieldType.Real
                    : FieldType.Decimal
            : HasType(schema, "boolean") ? FieldType.Boolean
            : Text(schema, "format") switch
            {
                "date" => FieldType.Date,
                "date-time" => FieldType.Timestamp,
                "uuid" => FieldType.Uuid,
                _ => FieldType.Text,
            };

        private IEnumerable<(string Name, JsonElement Schema)> PropertiesOf(JsonElement schema)
        {
            if (Member(schema, "properties") is { ValueKind: JsonValueKind.Object } own)
                foreach (var property in own.EnumerateObject())
                    yield return (property.Name, Whole(property.Value));
            foreach (var part in Items(Member(schema, "allOf")))
            foreach (var property in PropertiesOf(Whole(part)))
                yield return property;
        }

        /// <summary>A schema after following its reference. If it may be null, the other alternative.</summary>
        private JsonElement Whole(JsonElement schema)
        {
            var at = Resolved(schema);
            foreach (var choice in (string[])["oneOf", "anyOf"])
                if (Items(Member(at, choice)).Where(one => !HasType(one, "null")).ToList() is [var only])
                    return Resolved(only);
            return at;
        }

        /// <summary>
        /// What a reference within the document points to (<c>#/components/…</c>), or the schema itself if it is not a reference.
        /// </summary>
        private JsonElement Resolved(JsonElement element)
        {
            for (var steps = 0; steps < MostSteps && Text(element, "$ref") is { } reference; steps++)
            {
                var at = root;
                if (!reference.StartsWith("#/", StringComparison.Ordinal))
                    return element;
                foreach (
                    var token in reference[2..].Split('/').Select(token => JsonPointer.Unescaped(Uri.UnescapeDataString(token)))
                )
                {
                    if (Member(at, token) is not { } member)
                        return element;
                    at = member;
                }

                element = at;
            }

            return element;
        }

        private static string NameOf(string path, HashSet<string> taken)
        {
            var last = path.Split('/', StringSplitOptions.RemoveEmptyEntries).LastOrDefault(segment => !segment.Contains('{'))
                ?? "record";
            var words = DraftNames.Named(last, []);
            var name = words;
            for (var i = 2; taken.Contains(name); i++)
                name = $"{words}-{i}";
            return name;
        }

        private static IReadOnlyList<string> ParametersOf(string path) => ApiTemplate.Parameters(path);

        /// <summary>
        /// The field that a parameter means: of the same name, in any spelling, with or without the name of the record.
        /// </summary>
        private static string? FieldOf(string parameter, IEnumerable<string> fields, string record)
        {
            var names = fields.ToList();
            var bare = Plain(parameter);
            var without = bare.StartsWith(Plain(record), StringComparison.Ordinal) ? bare[Plain(record).Length..] : bare;
            return names.Find(field => field == parameter)
                ?? names.Find(field => Plain(field) == bare)
                ?? names.Find(field => without.Length > 0 && Plain(field) == without)
                ?? (bare == "id" || without == "id" ? KeyAmong(names, record) : null);
        }

        private static string? KeyAmong(IEnumerable<string> fields, string record)
        {
            var names = fields.ToList();
            return names.Find(field => Plain(field) is "id" or "uuid")
                ?? names.Find(field => Plain(field) == Plain(record) + "id")
                ?? names.Find(field => Plain(field) is "code" or "key" or "slug" or "number");
        }

        private static string Plain(string name) => new([.. name.Where(char.IsAsciiLetterOrDigit).Select(char.ToLowerInvariant)]);

        private static bool HasType(JsonElement schema, string type) =>
            Member(schema, "type") is { } said
            && (
                said.ValueKind == JsonValueKind.String
                    ? said.GetString() == type
                    : Items(said).Any(one => one.ValueKind == JsonValueKind.String && one.GetString() == type)
            );

        private static JsonElement? Member(JsonElement element, string name) =>
            element.ValueKind == JsonValueKind.Object && element.TryGetProperty(name, out var member) ? member : null;

        private static IEnumerable<JsonElement> Items(JsonElement? element) =>
            element is { ValueKind: JsonValueKind.Array } array ? array.EnumerateArray() : [];

        private static string? Text(JsonElement element, string name) =>
            Member(element, name) is { ValueKind: JsonValueKind.String } text ? text.GetString() : null;
    }
}
