using System.Text.Json;
using Jexa.Core.Files;

namespace Jexa.Sources.Files;

/// <summary>
/// A JSON file: an array of objects, alone or as the only array in an object; or an object of objects, whose member names become
/// a column <c>key</c>. Deeper values are kept as JSON.
/// </summary>
internal sealed class JsonTable : IFileTable
{
    private const long MostBytes = 200L << 20;

    private readonly List<(string Place, JsonElement Item)> _items = [];
    private readonly List<string> _columns = [];
    private readonly bool _hasNames;

    /// <exception cref="FileFault">It is not JSON, or has another form.</exception>
    public JsonTable(string path)
    {
        var name = Path.GetFileName(path);
        if (new FileInfo(path).Length > MostBytes)
            throw new FileFault(
                $"{name} is larger than {MostBytes >> 20} MB.",
                "Make it a CSV file, which is read line by line."
            );
        try
        {
            using var file = PlainFile.OpenRead(path);
            using var document = JsonDocument.Parse(
                file,
                new JsonDocumentOptions { AllowTrailingCommas = true, CommentHandling = JsonCommentHandling.Skip }
            );
            (var rows, _hasNames) = RowsOf(document.RootElement.Clone(), name);
            _items.AddRange(rows);
        }
        catch (JsonException bad)
        {
            throw new FileFault(
                $"{name}, line {bad.LineNumber + 1}: it is not JSON.",
                "Mend it there: a comma, a bracket or a quotation mark is missing or too many."
            );
        }

        var seen = new HashSet<string>();
        if (_hasNames)
        {
            _columns.Add("key");
            seen.Add("key");
        }

        foreach (var (place, item) in _items)
        {
            if (item.ValueKind != JsonValueKind.Object)
                throw new FileFault($"{name}, {place}: it is no object.", "Write each record as an object of fields.");
            foreach (var member in item.EnumerateObject())
                if (seen.Add(member.Name))
                    _columns.Add(member.Name);
        }

        if (_columns.Count == 0)
            throw new FileFault($"{name} has no records.", "Write an array of objects.");
    }

    public IReadOnlyList<string> Columns => _columns;

    public IEnumerable<FileRow> Rows()
    {
        foreach (var (place, item) in _items)
        {
            var values = new string?[_columns.Count];
            for (var i = 0; i < values.Length; i++)
                values[i] =
                    _hasNames && i == 0 ? place
                    : item.TryGetProperty(_columns[i], out var value) ? TextOf(value)
                    : null;
            yield return new FileRow(_hasNames ? $"member {place}" : place, values);
        }
    }

    /// <summary>A value as text; null for none.</summary>
    public static string? TextOf(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null or JsonValueKind.Undefined => null,
            JsonValueKind.String => value.GetString() is { Length: > 0 } text ? text : null,
            _ => value.GetRawText(),
        };

    private static (List<(string Place, JsonElement Item)> Rows, bool HasNames) RowsOf(JsonElement root, string name)
    {
        if (root.ValueKind == JsonValueKind.Object)
        {
            List<JsonProperty> members = [.. root.EnumerateObject()];
            if (members.FindAll(member => member.Value.ValueKind == JsonValueKind.Array) is [var only])
                root = only.Value;
            else if (members.Count > 0 && members.TrueForAll(member => member.Value.ValueKind == JsonValueKind.Object))
                return ([.. members.Select(member => (member.Name, member.Value))], true);
        }

        if (root.ValueKind != JsonValueKind.Array)
            throw new FileFault($"{name} holds no array of records.", "Write an array of objects, or an object of objects.");
        return ([.. root.EnumerateArray().Select((item, i) => ($"item {i + 1}", item))], false);
    }
}
