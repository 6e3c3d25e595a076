using System.Globalization;
using Jexa.Core.Endpoints;
using Jexa.Core.Values;

namespace Jexa.Core.Definitions;

/// <summary>Reads the parts of a source that only an API has: endpoints, headers, parameters.</summary>
internal static class ApiReader
{
    private static readonly string[] OwnKeys = ["endpoints", "headers", "parameters", "link_local", "proxy"];
    private static readonly string[] PagingWords = ["links", "page", "offset"];

    /// <summary>
    /// The API's part of a source; null for a source that is not an API. Anything of an API in such a source is reported.
    /// </summary>
    public static ApiDefinition? Read(MappingReader source, bool isApi, FindingList findings)
    {
        if (!isApi)
        {
            foreach (var key in OwnKeys)
                if (source.Value(key) is { } stray)
                    findings.Add(
                        FindingCodes.KeyOfOtherPageKind,
                        stray.At,
                        $"Only a source over an API (engine: http) has {key}.",
                        $"Remove {key}, or say engine: http.",
                        found: key
                    );
            return null;
        }

        var endpoints = ReadEndpoints(source, findings);
        var local = source.Text("link_local");
        if (local is not (null or { Value: "allowed" or "refused" }))
            findings.AddUnknown(FindingCodes.UnknownWord, local, "word", ["allowed", "refused"]);
        return new ApiDefinition(
            Pairs(source, "headers", findings),
            Pairs(source, "parameters", findings),
            local?.Value == "allowed",
            endpoints
        )
        {
            Proxy = source.Text("proxy"),
        };
    }

    private static List<ApiEndpoint> ReadEndpoints(MappingReader source, FindingList findings)
    {
        var endpoints = new List<ApiEndpoint>();
        if (source.Value("endpoints") is not { } node)
        {
            findings.Add(
                FindingCodes.MissingKey,
                source.At,
                "A source over an API lacks the key “endpoints”.",
                "Add endpoints: and below it, indented, gauge: { item: \"/gauges/{code}\", list: /gauges }",
                expected: "endpoints"
            );
            return endpoints;
        }

        if (MappingReader.Of(node, "“endpoints”", findings) is not { } section)
            return endpoints;
        foreach (var (name, value) in section.Named)
        {
            if (MappingReader.Of(value, $"the endpoint “{name}”", findings) is not { } reader)
                continue;
            if (ReadEndpoint(name, reader, findings) is { } endpoint)
                endpoints.Add(endpoint);
            reader.Finish();
        }

        return endpoints;
    }

    private static List<(Written Name, Written Value)> Pairs(MappingReader source, string key, FindingList findings)
    {
        var pairs = new List<(Written, Written)>();
        if (source.Value(key) is not { } node || MappingReader.Of(node, $"“{key}”", findings) is not { } section)
            return pairs;
        foreach (var (name, value) in section.Named)
            if (MappingReader.AsText(value, name.Value, findings) is { } text)
                pairs.Add((name, text));
        return pairs;
    }

    private static ApiEndpoint? ReadEndpoint(Written name, MappingReader reader, FindingList findings)
    {
        var (item, list) = (reader.Text("item"), reader.Text("list"));
        var record = Pointer(reader.Text("record"), findings);
        var records = Pointer(reader.Text("records"), findings);
        var names = reader.Text("names");
        var key = reader.Texts("key");
        var paging = reader.Text("paging");
        if (paging is not null && !PagingWords.Contains(paging.Value))
            findings.AddUnknown(FindingCodes.UnknownWord, paging, "way of paging called", PagingWords);
        var refresh = Number(reader.Text("refresh"), 60, 1, 86_400, findings);
        var most = Number(reader.Text("most"), 10_000, 1, 1_000_000, findings);
        var fields = ReadFields(reader, findings);
        var sound = CheckTemplates(name, item, list, findings);
        IReadOnlyList<string> keys =
            key.Count > 0 ? [.. key.Select(field => field.Value)]
            : item is null || !sound
                ? names is null ? []
                    : [names.Value]
            : ApiTemplate.Parameters(item.Value);
        if (item is not null)
            sound &= CheckItem(name, item, list is not null || fields.Count > 0, sound ? keys : null, findings);
        return !sound
            ? null
            : new ApiEndpoint(
                name.Value,
                item?.Value,
                list?.Value,
                record,
                records,
                names?.Value,
                keys,
                paging?.Value switch
                {
                    "page" => ApiPaging.Page,
                    "offset" => ApiPaging.Offset,
                    _ => ApiPaging.Links,
                },
                refresh,
                most,
                fields
            );
    }

    private static Dictionary<string, FieldType> ReadFields(MappingReader reader, FindingList findings)
    {
        var fields = new Dictionary<string, FieldType>();
        if (reader.Value("fields") is not { } node || MappingReader.Of(node, "“fields”", findings) is not { } section)
            return fields;
        foreach (var (field, value) in section.Named)
        {
            if (MappingReader.AsText(value, field.Value, findings) is not { } word)
                continue;
            if (FieldTypes.TryParse(word.Value, out var type))
                fields[field.Value] = type;
            else
                findings.AddUnknown(FindingCodes.UnknownWord, word, "field type", FieldTypes.Words);
        }

        return fields;
    }

    /// <summary>Whether there are templates, and all of them can be called; reported if not.</summary>
    private static bool CheckTemplates(Written name, Written? item, Written? list, FindingList findings)
    {
        if (item is null && list is null)
        {
            findings.Add(
                FindingCodes.BadEndpoint,
                name.At,
                $"The endpoint “{name}” has neither item nor list.",
                "Give the path of one record (item), of all records (list), or both.",
                expected: "item or list"
            );
            return false;
        }

        var sound = true;
        foreach (var template in new[] { item, list }.OfType<Written>())
        {
            if (ApiTemplate.FaultOf(template.Value) is not { } fault)
                continue;
            findings.Add(
                FindingCodes.BadEndpoint,
                template.At,
                $"“{template}” cannot be called: {fault}",
                "Write a path below the base address, such as /gauges/{code} or /gauges{?river}.",
                found: template.Value,
                expected: "a URI template (RFC 6570)"
            );
            sound = false;
        }

        return sound;
    }

    /// <summary>Whether the fields of a record are known and its template has the key's names; reported if not.</summary>
    /// <param name="keys">The fields of the key; null if the template was reported already.</param>
    private static bool CheckItem(Written name, Written item, bool hasFields, IReadOnlyList<string>? keys, FindingList findings)
    {
        if (!hasFields)
        {
            findings.Add(
                FindingCodes.BadEndpoint,
                item.At,
                $"The endpoint “{name}” has no list to read its fields from, and does not say them.",
                "Add fields: { code: text, level_m: decimal } to it.",
                expected: "fields"
            );
            return false;
        }

        if (
            keys is null
            || ApiTemplate.Parameters(item.Value).FirstOrDefault(parameter => !keys.Contains(parameter)) is not { } other
        )
            return true;
        findings.Add(
            FindingCodes.BadEndpoint,
            item.At,
            $"The parameter {other} of “{item}” is no field of the key.",
            "Call the template's parameters like the fields of the key.",
            found: other,
            expected: string.Join(", ", keys)
        );
        return false;
    }

    private static string Pointer(Written? pointer, FindingList findings)
    {
        if (pointer is null || pointer.Value.Length == 0 || pointer.Value[0] == '/')
            return pointer?.Value ?? "";
        findings.Add(
            FindingCodes.BadEndpoint,
            pointer.At,
            $"“{pointer}” is no JSON Pointer.",
            "Begin it with a slash, such as /data or /items/0.",
            found: pointer.Value,
            expected: "a JSON Pointer (RFC 6901)"
        );
        return "";
    }

    private static int Number(Written? number, int otherwise, int least, int most, FindingList findings)
    {
        if (number is null)
            return otherwise;
        if (
            int.TryParse(number.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var value)
            && value >= least
            && value <= most
        )
            return value;
        findings.Add(
            FindingCodes.UnknownWord,
            number.At,
            $"“{number}” is no whole number from {least} to {most}.",
            "Write one.",
            found: number.Value,
            expected: $"{least} to {most}"
        );
        return otherwise;
    }
}
