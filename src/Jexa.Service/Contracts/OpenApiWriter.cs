using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Jexa.Core.Contracts;
using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;
using Jexa.Service.Clients;

namespace Jexa.Service.Contracts;

/// <summary>Writes a site as an OpenAPI 3.1 document: its paths and their parameters, what each page answers with, what can be sent to it, how it can end.</summary>
internal sealed class OpenApiWriter : IDisposable
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    /// <summary>How a page can end besides well: status, name, outcomes, what it means.</summary>
    private static readonly (string Status, string Name, string[] Outcomes, string Means)[] Problems =
    [
        ("400", "BadAddress", ["malformed", "missing"], "The address is not one of this page's: a parameter is absent, or is no value of its type."),
        ("403", "Untrusted", ["untrusted"], "It was sent from a page of another origin that may not write."),
        ("404", "Unknown", ["unknown", "no-page"], "There is no such record, or it may not be seen."),
        ("409", "Refused", ["refused"], "A rule of the source forbids the change. Nothing was changed."),
        ("410", "Gone", ["gone"], "The record was deleted."),
        ("412", "Conflict", ["conflict"], "The record has changed since the version that If-Match names. Nothing was changed."),
        ("413", "TooLarge", ["unreadable"], "The body is too large."),
        ("415", "OtherType", ["unreadable"], "The body is of another media type."),
        ("422", "Invalid", ["invalid"], "Some fields are wrong; all of them are told. Nothing was changed."),
        ("428", "WhichVersion", ["refused"], "If-Match is lacking."),
        ("500", "Failed", ["ambiguous", "failed"], "Two records answer to the ID, or something went wrong."),
        ("503", "Unavailable", ["unavailable"], "The source is away or too slow; Retry-After says when to try again."),
    ];

    private readonly Site _site;
    private readonly IReadOnlyList<PageContract> _pages;
    private readonly ClientNames _schemas;
    private readonly IReadOnlyDictionary<string, PageExample> _examples;
    private readonly System.Buffers.ArrayBufferWriter<byte> _bytes = new(64 * 1024);
    private readonly Utf8JsonWriter _json;

    private OpenApiWriter(Site site, IReadOnlyDictionary<string, PageExample> examples)
    {
        (_site, _examples) = (site, examples);
        _pages = PageContract.Of(site);
        _schemas = new ClientNames(_pages, ClientNames.Pascal, name => [name, name + "Sent"], ["Problem", "Reference", "Picture", "Link", "Id", "Total", "Saved", "Side"]);
        _json = new Utf8JsonWriter(_bytes, Options);
    }

    /// <param name="examples">By page: addresses that lead somewhere, and what they answer.</param>
    public static byte[] Write(Site site, IReadOnlyDictionary<string, PageExample> examples)
    {
        using var writer = new OpenApiWriter(site, examples);
        writer.Write();
        return writer._bytes.WrittenSpan.ToArray();
    }

    public void Dispose() => _json.Dispose();

    private void Write()
    {
        _json.WriteStartObject();
        _json.WriteString("openapi", "3.1.1");
        Object("info", () =>
        {
            _json.WriteString("title", _site.Frame.AppTitle);
            _json.WriteString("version", "1");
            _json.WriteString("description", "The pages of this app as JSON: ask for application/json. Every answer tells its outcome; an error is problem details (RFC 9457).");
        });
        Array("servers", () => Item(() => _json.WriteString("url", _site.Frame.Mount.Text.Length == 0 ? "/" : _site.Frame.Mount.Text)));
        Object("paths", () =>
        {
            foreach (var shared in _pages.GroupBy(page => PathOf(page)))
                Object(shared.Key, () => WritePath([.. shared]));
        });
        Object("components", () =>
        {
            Object("schemas", WriteSchemas);
            Object("responses", () =>
            {
                foreach (var (_, name, outcomes, means) in Problems) Object(name, () => WriteProblem(outcomes, means));
            });
        });
        _json.WriteEndObject();
        _json.Flush();
    }

    /// <summary>The path below the mount, as OpenAPI writes it: every parameter in braces, no query string.</summary>
    private static string PathOf(PageContract page) => page.Page.Head.Template.Segments.Count == 0 ? "/"
        : string.Concat(page.Page.Head.Template.Segments.Select(segment => "/" + (segment.Literal is { } literal ? Uri.EscapeDataString(literal) : $"{Uri.EscapeDataString(segment.Prefix)}{{{segment.Parameter}}}{Uri.EscapeDataString(segment.Suffix)}")));

    /// <summary>Pages of one path are one operation: which of them answers hangs on the query string.</summary>
    private void WritePath(IReadOnlyList<PageContract> pages)
    {
        Object("get", () =>
        {
            _json.WriteString("operationId", string.Join("Or", pages.Select((page, i) => i == 0 ? ClientNames.Camel(_schemas[page.Name]) : _schemas[page.Name])));
            _json.WriteString("summary", string.Join("; ", pages.Select(Described)));
            Array("tags", () => { foreach (var tag in pages.Select(page => page.Page.Record?.Name ?? "text").Distinct()) _json.WriteStringValue(tag); });
            WriteParameters(pages, []);
            Object("responses", () =>
            {
                Object("200", () => WriteGood(pages));
                Object("301", () => _json.WriteString("description", "The same under its canonical address, which Location tells."));
                WriteProblems(["400", "404", .. pages.Any(page => page.Kind is "detail" or "edit" or "delete") ? (string[])["410"] : [], "500", "503"]);
            });
        });
        foreach (var page in pages.Where(page => page.Kind is "edit" or "new" or "delete")) WriteChange(page);
    }

    private void WriteChange(PageContract page)
    {
        var (method, verb) = page.Kind switch { "edit" => ("patch", "change"), "new" => ("post", "add"), _ => ("delete", "delete") };
        Object(method, () =>
        {
            _json.WriteString("operationId", verb + _schemas[page.Name]);
            _json.WriteString("summary", Described(page));
            Array("tags", () => _json.WriteStringValue(page.Page.Record!.Name));
            WriteParameters([page], page.Kind == "new" ? [] : ["If-Match"]);
            if (page.Kind != "delete")
            {
                Object("requestBody", () =>
                {
                    _json.WriteBoolean("required", true);
                    Object("content", () => Object(page.Kind == "edit" ? Page.PatchType : Page.JsonType, () => Object("schema", () => Ref($"schemas/{_schemas[page.Name]}Sent"))));
                });
            }

            Object("responses", () =>
            {
                switch (page.Kind)
                {
                    case "edit":
                        Object("200", () => WriteGood([page]));
                        break;
                    case "new":
                        Object("201", () =>
                        {
                            _json.WriteString("description", "The record was made.");
                            Object("headers", () => Object("Location", () => Object("schema", () => _json.WriteString("type", "string"))));
                            Object("content", () => Object(Page.JsonType, () => Object("schema", () => Ref("schemas/Saved"))));
                        });
                        break;
                    default:
                        Object("204", () => _json.WriteString("description", "The record was deleted."));
                        break;
                }

                WriteProblems(["400", "403", "404", "409", .. page.Kind == "new" ? [] : (string[])["410", "412", "428"], .. page.Kind == "delete" ? [] : (string[])["413", "415", "422"], "500", "503"]);
            });
        });
    }

    private void WriteProblems(IEnumerable<string> statuses)
    {
        foreach (var status in statuses) Object(status, () => Ref("responses/" + Problems.First(problem => problem.Status == status).Name));
    }

    private void WriteProblem(string[] outcomes, string means)
    {
        _json.WriteString("description", means);
        Object("content", () => Object("application/problem+json", () => Object("schema", () => Array("allOf", () =>
        {
            Item(() => Ref("schemas/Problem"));
            Item(() => Object("properties", () => Object("outcome", () => Array("enum", () => { foreach (var outcome in outcomes) _json.WriteStringValue(outcome); }))));
        }))));
    }

    private void WriteGood(IReadOnlyList<PageContract> pages)
    {
        _json.WriteString("description", string.Join("; ", pages.Select(page => page.Kind switch { "list" => $"A window of the {page.Page.Record!.Many}", "text" => "The text", _ => $"The {page.Page.Record!.One}" })) + ".");
        if (pages.Any(page => page.Kind is "edit" or "delete")) Object("headers", () => Object("ETag", () =>
        {
            _json.WriteString("description", "The record's version, for If-Match.");
            Object("schema", () => _json.WriteString("type", "string"));
        }));
        Object("content", () => Object(Page.JsonType, () =>
        {
            Object("schema", () =>
            {
                if (pages.Count == 1) Ref("schemas/" + _schemas[pages[0].Name]);
                else Array("oneOf", () => { foreach (var page in pages) Item(() => Ref("schemas/" + _schemas[page.Name])); });
            });
            if (pages.Select(page => _examples.GetValueOrDefault(page.Name)?.Json).OfType<ReadOnlyMemory<byte>?>().FirstOrDefault() is { } example)
            {
                _json.WritePropertyName("example");
                _json.WriteRawValue(example.Span);
            }
        }));
        if (pages.Count == 1) WriteLinks(pages[0]);
    }

    /// <summary>Where a record leads, by values that the request or the answer has.</summary>
    private void WriteLinks(PageContract page)
    {
        if (page.Page is not DetailPage detail) return;
        var links = detail.Links.Select(link => (link.Plan, To: _site.Find(link.Plan.Page))).Where(link => link.To is not null && link.Plan.Fillers.Count == link.Plan.ParameterNames.Count)
            .Select(link => (link.Plan.Page, link.To, Passed: link.Plan.ParameterNames.Zip(link.Plan.Fillers, (name, filler) => (name, From: SourceOf(page, filler.Field))).ToList()))
            .Where(link => link.Passed.Count > 0 && link.Passed.TrueForAll(pass => pass.From is not null)).DistinctBy(link => link.Page).ToList();
        if (links.Count == 0) return;
        Object("links", () =>
        {
            foreach (var (name, to, passed) in links)
            {
                Object(name, () =>
                {
                    var sharing = _pages.Where(other => PathOf(other) == PathOf(_pages.First(one => one.Page == to))).ToList();
                    _json.WriteString("operationId", string.Join("Or", sharing.Select((one, i) => i == 0 ? ClientNames.Camel(_schemas[one.Name]) : _schemas[one.Name])));
                    Object("parameters", () => { foreach (var (parameter, from) in passed) _json.WriteString(parameter, from); });
                });
            }
        });
    }

    /// <summary>A runtime expression for a field; null where neither request nor answer has it by itself.</summary>
    private static string? SourceOf(PageContract page, string field)
    {
        if (page.Parameters.FirstOrDefault(parameter => parameter.Of.Path is null && parameter.Of.Field.Name == field) is { } own) return $"$request.{(own.InQuery ? "query" : "path")}.{own.Name}";
        return page.Fields.FirstOrDefault(shown => shown.Name == field && !shown.Name.Contains('~') && !shown.Name.Contains('/')) is { } known
            ? $"$response.body#/fields/{known.Name}{(known.Shape == FieldShape.Reference ? "/id" : "")}" : null;
    }

    private void WriteParameters(IReadOnlyList<PageContract> pages, string[] headers)
    {
        var written = new HashSet<string>();
        var isGet = headers.Length == 0 && pages[0].Kind != "new";
        Array("parameters", () =>
        {
            foreach (var page in pages)
            {
                for (var i = 0; i < page.Parameters.Count; i++)
                {
                    var parameter = page.Parameters[i];
                    if (!written.Add(parameter.Name)) continue;
                    var sample = _examples.GetValueOrDefault(page.Name)?.Ids.ElementAtOrDefault(i);
                    Item(() => WriteParameter(parameter, pages.Count == 1 && parameter.Of.Required, sample));
                }

                if (!isGet || page.Page is not ListPage list) continue;
                if (list.Plan.CanSearch && written.Add("find")) Control("find", "What to look for.", () => _json.WriteString("type", "string"));
                if (page.Orders.Count > 0 && written.Add("order")) Control("order", "What to order by; a minus before it turns the order round.", () => Texts(page.Orders.SelectMany(order => new[] { order, "-" + order })));
                if (written.Add("size")) Control("size", "Records at a time.", () =>
                {
                    _json.WriteString("type", "integer");
                    Array("enum", () => { foreach (var size in list.Sizes) _json.WriteNumberValue(size); });
                });
                if (written.Add("after")) Control("after", "A place that the list itself gave out, behind which the window begins: follow next.", () => _json.WriteString("type", "string"));
                if (written.Add("before")) Control("before", "The same, before which the window ends: follow prev.", () => _json.WriteString("type", "string"));
            }

            foreach (var header in headers)
            {
                Item(() =>
                {
                    _json.WriteString("name", header);
                    _json.WriteString("in", "header");
                    _json.WriteBoolean("required", true);
                    _json.WriteString("description", "The version that the change is for: the ETag that this address gives; or *.");
                    Object("schema", () => _json.WriteString("type", "string"));
                });
            }
        });
    }

    private void Control(string name, string means, Action schema) => Item(() =>
    {
        _json.WriteString("name", name);
        _json.WriteString("in", "query");
        _json.WriteString("description", means);
        Object("schema", schema);
    });

    private void WriteParameter(ParameterContract parameter, bool required, string? sample)
    {
        _json.WriteString("name", parameter.Name);
        _json.WriteString("in", parameter.InQuery ? "query" : "path");
        _json.WriteString("description", Formats(parameter));
        if (required || !parameter.InQuery) _json.WriteBoolean("required", true);
        Object("schema", () =>
        {
            if (!parameter.Of.Many)
            {
                WriteKey(parameter);
                return;
            }

            _json.WriteString("type", "array");
            _json.WriteNumber("maxItems", 50);
            Object("items", () => WriteKey(parameter));
        });
        if (parameter.Of.Many) _json.WriteBoolean("explode", true);
        if (string.IsNullOrEmpty(sample) || parameter.Of.Many) return;
        _json.WritePropertyName("example");
        if (parameter.Kind is ValueKind.Whole or ValueKind.Month && long.TryParse(sample, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number)) _json.WriteNumberValue(number);
        else if (parameter.Kind == ValueKind.Truth) _json.WriteBooleanValue(sample == "true");
        else _json.WriteStringValue(sample);
    }

    private static string Formats(ParameterContract parameter) => Core.Formats.Labels.Capital(parameter.Of.Key.Looks) + ".";

    private void WriteKey(ParameterContract parameter)
    {
        switch (parameter.Of.Key)
        {
            case IntegerKey key:
                _json.WriteString("type", "integer");
                _json.WriteString("format", "int64");
                if (key.Min != long.MinValue) _json.WriteNumber("minimum", key.Min);
                if (key.Max != long.MaxValue) _json.WriteNumber("maximum", key.Max);
                break;
            case TextKey key:
                _json.WriteString("type", "string");
                _json.WriteNumber("minLength", 1);
                if (key.Form.MaxLength is { } longest) _json.WriteNumber("maxLength", longest);
                if (key.Form.Pattern is { } pattern && !key.FoldsCase && ScriptPattern.Of(pattern) is { } script) _json.WriteString("pattern", $"^(?:{script})$");
                break;
            case NumberKey key:
                _json.WriteString("type", "string");
                _json.WriteString("pattern", key.IsWhole ? "^[-+]?[0-9]+$" : "^[-+]?[0-9]+(\\.[0-9]+)?$");
                break;
            case WordKey key:
                Texts(key.Words);
                break;
            case var _ when parameter.Kind == ValueKind.Year:
                _json.WriteString("type", "string");
                _json.WriteString("pattern", "^[0-9]{4}$");
                break;
            case var _ when parameter.Kind == ValueKind.Month:
                _json.WriteString("type", "integer");
                _json.WriteNumber("minimum", 1);
                _json.WriteNumber("maximum", 12);
                break;
            default:
                WriteType(parameter.Kind, false);
                break;
        }
    }

    private void WriteSchemas()
    {
        Text("Id", """{ "description": "As it stands in addresses; of several parameters one text each; null where no address can carry it.", "type": ["string", "object", "null"], "additionalProperties": { "type": "string" } }""");
        Text("Link", """{ "type": "object", "required": ["page", "text", "address"], "properties": { "page": { "type": "string" }, "text": { "type": "string" }, "address": { "type": "string" } } }""");
        Text("Reference", """{ "description": "Another record; empty where it is not there or may not be seen.", "type": ["object", "null"], "required": ["label"], "properties": { "id": { "$ref": "#/components/schemas/Id" }, "address": { "type": ["string", "null"] }, "label": { "type": ["string", "null"] } } }""");
        Text("Picture", """{ "type": ["object", "null"], "required": ["name", "address"], "properties": { "name": { "type": "string" }, "address": { "type": ["string", "null"] } } }""");
        Text("Total", """{ "description": "Not exact where counting stopped: there are more.", "type": "object", "required": ["count", "exact"], "properties": { "count": { "type": "integer" }, "exact": { "type": "boolean" } } }""");
        Text("Saved", """{ "type": "object", "required": ["outcome", "page", "id", "address"], "properties": { "outcome": { "const": "saved" }, "page": { "type": "string" }, "id": { "type": ["string", "null"] }, "address": { "type": "string" } } }""");
        Text("Side", """{ "type": "object", "required": ["title", "exact", "whole", "values"], "properties": { "title": { "type": "string" }, "exact": { "type": "boolean" }, "whole": { "type": "boolean" }, "failed": { "type": "boolean" }, "all": { "type": "string" }, "values": { "type": "array", "items": { "type": "object", "required": ["label", "address", "count", "current"], "properties": { "label": { "type": "string" }, "address": { "type": ["string", "null"] }, "count": { "type": "integer" }, "current": { "type": "boolean" } } } } } }""");
        Text("Problem", """{ "description": "Problem details (RFC 9457).", "type": "object", "required": ["type", "title", "status", "detail", "outcome", "links"], "properties": { "type": { "type": "string" }, "title": { "type": "string" }, "status": { "type": "integer" }, "detail": { "type": "string" }, "instance": { "type": "string" }, "outcome": { "type": "string" }, "page": { "type": "string" }, "parameter": { "type": "string" }, "expected": { "type": "string" }, "links": { "type": "array", "items": { "$ref": "#/components/schemas/Link" } }, "errors": { "type": "array", "items": { "type": "object", "required": ["pointer", "detail"], "properties": { "pointer": { "type": "string" }, "detail": { "type": "string" } } } } } }""");
        foreach (var page in _pages)
        {
            Object(_schemas[page.Name], () => WritePage(page));
            if (page.Asked.Count > 0) Object(_schemas[page.Name] + "Sent", () => WriteSent(page));
        }

        void Text(string name, string schema)
        {
            _json.WritePropertyName(name);
            _json.WriteRawValue(schema);
        }
    }

    private void WritePage(PageContract page)
    {
        var outcome = page.Kind switch { "list" => "listed", "text" => "shown", _ => "found" };
        _json.WriteString("type", "object");
        Array("required", () => { foreach (var name in Required(page)) _json.WriteStringValue(name); });
        Object("properties", () =>
        {
            Object("outcome", () => Texts(page.Kind == "edit" ? ["found", "saved"] : [outcome]));
            Object("page", () => _json.WriteString("const", page.Name));
            if (page.Kind is "list" or "detail" or "text") Object("title", () => _json.WriteString("type", "string"));
            switch (page.Kind)
            {
                case "list":
                    Object("total", () => Ref("schemas/Total"));
                    Object("from", () => _json.WriteString("type", "integer"));
                    Object("notice", () => _json.WriteString("type", "string"));
                    Object("records", () => Many(() => WriteRecord(page.Fields)));
                    foreach (var way in (string[])["first", "prev", "next", "last"]) Object(way, NullableText);
                    Object("add", () => _json.WriteString("type", "string"));
                    foreach (var word in (string[])["find", "order"]) Object(word, () => _json.WriteString("type", "string"));
                    Object("orders", () => Many(() => _json.WriteString("type", "string")));
                    Object("size", () => _json.WriteString("type", "integer"));
                    Object("sizes", () => Many(() => _json.WriteString("type", "integer")));
                    Object("sides", () => Many(() => Ref("schemas/Side")));
                    Object("trail", () => Many(() => Ref("schemas/Link")));
                    break;
                case "text":
                    Object("text", () => _json.WriteString("type", "string"));
                    break;
                default:
                    WriteRecordMembers(page.Fields);
                    if (page.Kind != "delete") Object("links", () => Many(() => Ref("schemas/Link")));
                    if (page.Kind != "detail") break;
                    Object("list", () => _json.WriteString("type", "string"));
                    Object("prev", NullableText);
                    Object("next", NullableText);
                    Object("trail", () => Many(() => Ref("schemas/Link")));
                    if (page.Blocks.Count > 0) Object("related", () => Many(() => Array("anyOf", () => { foreach (var block in page.Blocks) Item(() => WriteBlock(block)); })));
                    break;
            }
        });
    }

    private static string[] Required(PageContract page) => page.Kind switch
    {
        "list" => ["outcome", "page", "title", "total", "records", "first", "prev", "next", "last", "order", "orders", "size", "sizes"],
        "text" => ["outcome", "page", "title", "text"],
        "detail" => ["outcome", "page", "title", "id", "address", "fields", "links", "prev", "next"],
        "new" => ["outcome", "page", "fields"],
        _ => ["outcome", "page", "id", "address", "fields"],
    };

    private void WriteBlock(BlockContract block)
    {
        _json.WriteString("type", "object");
        Array("required", () => { foreach (var name in (string[])["record", "title"]) _json.WriteStringValue(name); });
        Object("properties", () =>
        {
            Object("record", () => _json.WriteString("const", block.Record));
            Object("title", () => _json.WriteString("type", "string"));
            Object("failed", () => _json.WriteString("type", "boolean"));
            if (block.IsNotice)
            {
                Object("notice", () => _json.WriteString("type", "string"));
                return;
            }

            Object("total", () => Ref("schemas/Total"));
            Object("records", () => Many(() => WriteRecord(block.Fields)));
            Object("all", NullableText);
        });
    }

    private void WriteRecord(IReadOnlyList<FieldContract> fields)
    {
        _json.WriteString("type", "object");
        Array("required", () => _json.WriteStringValue("fields"));
        Object("properties", () =>
        {
            WriteRecordMembers(fields);
            Object("links", () => Many(() => Ref("schemas/Link")));
        });
    }

    private void WriteRecordMembers(IReadOnlyList<FieldContract> fields)
    {
        Object("id", () => Ref("schemas/Id"));
        Object("address", NullableText);
        Object("fields", () =>
        {
            _json.WriteString("type", "object");
            Array("required", () => { foreach (var field in fields.Where(field => !field.IsOptional)) _json.WriteStringValue(field.Name); });
            Object("properties", () =>
            {
                foreach (var field in fields)
                {
                    Object(field.Name, () =>
                    {
                        _json.WriteString("title", field.Label);
                        if (field.Shape == FieldShape.Plain) WriteType(field.Kind, field.IsNullable);
                        else Ref("schemas/" + field.Shape);
                    });
                }
            });
        });
    }

    private void WriteSent(PageContract page)
    {
        var given = page.Parameters.Select(parameter => parameter.Of.Field.Name).ToHashSet();
        var must = page.Kind == "new" ? page.Asked.Where(asked => asked.Field.Rules.Required && asked.Field.Default.Length == 0 && !asked.Field.LeftToSource && !given.Contains(asked.Field.Name)).Select(asked => asked.Field.Name).ToList() : [];
        _json.WriteString("type", "object");
        Array("required", () => _json.WriteStringValue("fields"));
        _json.WriteBoolean("additionalProperties", false);
        Object("properties", () => Object("fields", () =>
        {
            _json.WriteString("type", "object");
            _json.WriteBoolean("additionalProperties", false);
            if (must.Count > 0) Array("required", () => { foreach (var name in must) _json.WriteStringValue(name); });
            Object("properties", () => { foreach (var asked in page.Asked) Object(asked.Field.Name, () => WriteAsked(asked)); });
        }));
    }

    private void WriteAsked(AskedContract asked)
    {
        var (field, rules) = (asked.Field, asked.Field.Rules);
        var nullable = !rules.Required && !(field.Input == InputKind.Truth && !field.Column.Nullable);
        _json.WriteString("title", field.Label);
        var explained = Explanation(asked.Kind);
        if (field.Help is not null || explained is not null) _json.WriteString("description", string.Join(" ", new[] { field.Help, explained }.OfType<string>()));
        if (field.Choices.Count > 0 && asked.Kind == ValueKind.Text)
        {
            Array("oneOf", () =>
            {
                foreach (var choice in field.Choices)
                {
                    Item(() =>
                    {
                        _json.WriteString("const", choice.Value);
                        _json.WriteString("title", choice.Label);
                    });
                }

                if (nullable) Item(() => _json.WriteString("type", "null"));
            });
            return;
        }

        WriteType(asked.Kind, nullable, isExplained: true);
        if (asked.Kind is ValueKind.Whole or ValueKind.Real)
        {
            if (rules.Least is { } least) _json.WriteNumber("minimum", least);
            if (rules.Most is { } most) _json.WriteNumber("maximum", most);
        }

        if (rules.MaxLength is { } longest) _json.WriteNumber("maxLength", longest);
        if (rules.Required && asked.Kind == ValueKind.Text) _json.WriteNumber("minLength", 1);
        if (rules.PatternText is { } pattern && ScriptPattern.Of(pattern) is { } script) _json.WriteString("pattern", $"^(?:{script})$");
        if (rules.Example is { } example) Array("examples", () => _json.WriteStringValue(example));
    }

    private void WriteType(ValueKind kind, bool nullable, bool isExplained = false)
    {
        var (type, format) = kind switch
        {
            ValueKind.Whole => ("integer", "int64"),
            ValueKind.Real => ("number", "double"),
            ValueKind.Truth => ("boolean", null),
            ValueKind.Uuid => ("string", "uuid"),
            ValueKind.Date => ("string", "date"),
            ValueKind.Bytes => ("string", "byte"),
            ValueKind.Any => (null, null),
            _ => ("string", (string?)null),
        };
        if (type is null) return;
        if (nullable) Array("type", () => { _json.WriteStringValue(type); _json.WriteStringValue("null"); });
        else _json.WriteString("type", type);
        if (format is not null) _json.WriteString("format", format);
        if (!isExplained && Explanation(kind) is { } explained) _json.WriteString("description", explained);
    }

    private static string? Explanation(ValueKind kind) => kind switch
    {
        ValueKind.Decimal => "An exact decimal number, as text.",
        ValueKind.Moment => "A moment as it is kept, such as 2024-02-29T14:30:00.",
        _ => null,
    };

    private static string Described(PageContract page) => page.Kind switch
    {
        "list" => $"List {page.Page.Record!.Many}",
        "detail" => $"One {page.Page.Record!.One}",
        "edit" => $"One {page.Page.Record!.One} to be changed",
        "new" => $"Add one {page.Page.Record!.One}",
        "delete" => $"Delete one {page.Page.Record!.One}",
        _ => "A text",
    };

    private void NullableText() => Array("type", () => { _json.WriteStringValue("string"); _json.WriteStringValue("null"); });

    private void Texts(IEnumerable<string> texts)
    {
        _json.WriteString("type", "string");
        Array("enum", () => { foreach (var text in texts) _json.WriteStringValue(text); });
    }

    private void Many(Action items)
    {
        _json.WriteString("type", "array");
        Object("items", items);
    }

    private void Ref(string component) => _json.WriteString("$ref", "#/components/" + component);

    private void Object(string name, Action members)
    {
        _json.WriteStartObject(name);
        members();
        _json.WriteEndObject();
    }

    private void Item(Action members)
    {
        _json.WriteStartObject();
        members();
        _json.WriteEndObject();
    }

    private void Array(string name, Action items)
    {
        _json.WriteStartArray(name);
        items();
        _json.WriteEndArray();
    }
}

/// <summary>An address of a page that leads somewhere, and what it answers.</summary>
/// <param name="Ids">The texts of its parameters.</param>
/// <param name="Json">Null where nothing is to be shown.</param>
internal sealed record PageExample(IReadOnlyList<string> Ids, ReadOnlyMemory<byte>? Json);
