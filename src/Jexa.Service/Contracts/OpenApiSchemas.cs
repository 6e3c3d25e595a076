using System.Diagnostics;
using Jexa.Core.Contracts;
using Jexa.Core.Definitions;
using Jexa.Service.Clients;

namespace Jexa.Service.Contracts;

/// <summary>Writes the answers of pages, and what can be sent to them, as schemas of an OpenAPI document.</summary>
/// <param name="names">The name of each page's schema. What is sent to it has the same name followed by <c>Sent</c>.</param>
internal sealed class OpenApiSchemas(JsonShape shape, IReadOnlyList<PageContract> pages, ClientNames names)
{
    /// <summary>The schemas that pages share, besides that of an ID.</summary>
    private static readonly (string Name, string Json)[] Shared =
    [
        (
            "Link",
            """
            {
              "type": "object",
              "required": ["page", "text", "address"],
              "properties": { "page": { "type": "string" }, "text": { "type": "string" }, "address": { "type": "string" } }
            }
            """
        ),
        (
            "Reference",
            """
            {
              "description": "Another record; empty if it does not exist or may not be seen.",
              "type": ["object", "null"],
              "required": ["label"],
              "properties": {
                "id": { "$ref": "#/components/schemas/Id" },
                "address": { "type": ["string", "null"] },
                "label": { "type": ["string", "null"] }
              }
            }
            """
        ),
        (
            "Picture",
            """
            {
              "type": ["object", "null"],
              "required": ["name", "address"],
              "properties": { "name": { "type": "string" }, "address": { "type": ["string", "null"] } }
            }
            """
        ),
        (
            "StoredFile",
            """
            {
              "type": ["object", "null"],
              "required": ["name", "address"],
              "properties": { "name": { "type": "string" }, "address": { "type": ["string", "null"] } }
            }
            """
        ),
        (
            "Total",
            """
            {
              "description": "Not exact if counting stopped: there are more.",
              "type": "object",
              "required": ["count", "exact"],
              "properties": { "count": { "type": "integer" }, "exact": { "type": "boolean" } }
            }
            """
        ),
        (
            "Saved",
            """
            {
              "type": "object",
              "required": ["outcome", "page", "id", "address"],
              "properties": {
                "outcome": { "const": "saved" },
                "page": { "type": "string" },
                "id": { "type": ["string", "null"] },
                "address": { "type": "string" }
              }
            }
            """
        ),
        (
            "Side",
            """
            {
              "type": "object",
              "required": ["title", "exact", "whole", "values"],
              "properties": {
                "title": { "type": "string" },
                "exact": { "type": "boolean" },
                "whole": { "type": "boolean" },
                "failed": { "type": "boolean" },
                "all": { "type": "string" },
                "values": {
                  "type": "array",
                  "items": {
                    "type": "object",
                    "required": ["label", "address", "count", "current"],
                    "properties": {
                      "label": { "type": "string" },
                      "address": { "type": ["string", "null"] },
                      "count": { "type": "integer" },
                      "current": { "type": "boolean" }
                    }
                  }
                }
              }
            }
            """
        ),
        (
            "Choices",
            """
            {
              "type": "object",
              "required": ["outcome", "page", "choices", "more"],
              "properties": {
                "outcome": { "const": "listed" },
                "page": { "type": "string" },
                "choices": {
                  "type": "array",
                  "items": {
                    "type": "object",
                    "required": ["value", "label"],
                    "properties": { "value": { "type": "string" }, "label": { "type": "string" } }
                  }
                },
                "more": { "type": "boolean" }
              }
            }
            """
        ),
        (
            "Problem",
            """
            {
              "description": "Problem details (RFC 9457).",
              "type": "object",
              "required": ["type", "title", "status", "detail", "outcome", "links"],
              "properties": {
                "type": { "type": "string" },
                "title": { "type": "string" },
                "status": { "type": "integer" },
                "detail": { "type": "string" },
                "instance": { "type": "string" },
                "outcome": { "type": "string" },
                "page": { "type": "string" },
                "parameter": { "type": "string" },
                "expected": { "type": "string" },
                "links": { "type": "array", "items": { "$ref": "#/components/schemas/Link" } },
                "errors": {
                  "type": "array",
                  "items": {
                    "type": "object",
                    "required": ["pointer", "detail"],
                    "properties": { "pointer": { "type": "string" }, "detail": { "type": "string" } }
                  }
                }
              }
            }
            """
        ),
    ];

    /// <summary>The schemas of all pages, and those that they share.</summary>
    public void WriteAll()
    {
        shape.Json.WritePropertyName("Id");
        shape.Json.WriteRawValue($$"""{ "description": "{{IdDescription}}", "type": ["string", "null"] }""");
        foreach (var (name, json) in Shared)
        {
            shape.Json.WritePropertyName(name);
            shape.Json.WriteRawValue(json);
        }

        foreach (var page in pages)
        {
            shape.Object(names[page.Name], () => WritePage(page));
            if (page.Asked.Count > 0)
                shape.Object(names[page.Name] + "Sent", () => WriteSent(page));
        }
    }

    private const string IdDescription = "As in addresses; null if no address can carry it.";

    /// <summary>An ID of one parameter is a text; of several, an object with a text for each.</summary>
    private void WriteId(IReadOnlyList<string> parameters)
    {
        if (parameters.Count < 2)
        {
            shape.Ref("schemas/Id");
            return;
        }

        shape.Json.WriteString("description", IdDescription);
        shape.Strings("type", (string[])["object", "null"]);
        shape.Strings("required", parameters);
        shape.Object("properties", () =>
        {
            foreach (var parameter in parameters)
                shape.Object(parameter, () => shape.Json.WriteString("type", "string"));
        });
    }

    /// <summary>A field that refers to another record.</summary>
    private void WriteReference(IReadOnlyList<string> idParameters)
    {
        if (idParameters.Count < 2)
        {
            shape.Ref("schemas/Reference");
            return;
        }

        shape.Json.WriteString("description", "Another record; empty if it does not exist or may not be seen.");
        shape.Strings("type", (string[])["object", "null"]);
        shape.Strings("required", (string[])["label"]);
        shape.Object("properties", () =>
        {
            shape.Object("id", () => WriteId(idParameters));
            shape.Object("address", shape.NullableText);
            shape.Object("label", shape.NullableText);
        });
    }

    private void WritePage(PageContract page)
    {
        var outcome = page.Calls switch
        {
            PageCalls.List => "listed",
            PageCalls.Text or PageCalls.Add => "shown",
            PageCalls.Read or PageCalls.Edit or PageCalls.Delete => "found",
            var other => throw new UnreachableException($"{other} has no schema."),
        };
        shape.Json.WriteString("type", "object");
        shape.Strings("required", Required(page));
        shape.Object("properties", () =>
        {
            shape.Object("outcome", () => shape.Texts(page.Calls == PageCalls.Edit ? ["found", "saved"] : [outcome]));
            shape.Object("page", () => shape.Json.WriteString("const", page.Name));
            if (page.Calls is PageCalls.List or PageCalls.Read or PageCalls.Text)
                shape.Object("title", () => shape.Json.WriteString("type", "string"));
            switch (page.Calls)
            {
                case PageCalls.List:
                    WriteListMembers(page);
                    break;
                case PageCalls.Text:
                    shape.Object("text", () => shape.Json.WriteString("type", "string"));
                    if (page.ShowsLists)
                        shape.Object("lists", () => shape.Many(() => WriteListed(withRecords: false)));
                    if (page.Searches)
                        shape.Object("found", () => shape.Many(() => WriteListed(withRecords: true)));
                    break;
                case PageCalls.Read or PageCalls.Edit or PageCalls.Add or PageCalls.Delete:
                    WriteRecordMembers(page.Fields, page.IdParameters);
                    if (page.Calls != PageCalls.Delete)
                        shape.Object("links", () => shape.Many(() => shape.Ref("schemas/Link")));
                    if (page.Calls == PageCalls.Read)
                        WriteSurroundings(page);
                    break;
                default:
                    throw new UnreachableException($"{page.Calls} has no schema.");
            }
        });
    }

    private void WriteListMembers(PageContract page)
    {
        shape.Object("total", () => shape.Ref("schemas/Total"));
        shape.Object("from", () => shape.Json.WriteString("type", "integer"));
        shape.Object("notice", () => shape.Json.WriteString("type", "string"));
        shape.Object("records", () => shape.Many(() => WriteRecord(page.Fields, page.IdParameters)));
        foreach (var way in (string[])["first", "prev", "next", "last"])
            shape.Object(way, shape.NullableText);
        shape.Object("add", () => shape.Json.WriteString("type", "string"));
        foreach (var word in (string[])["find", "order"])
            shape.Object(word, () => shape.Json.WriteString("type", "string"));
        shape.Object("orders", () => shape.Many(() => shape.Json.WriteString("type", "string")));
        shape.Object("size", () => shape.Json.WriteString("type", "integer"));
        shape.Object("sizes", () => shape.Many(() => shape.Json.WriteString("type", "integer")));
        shape.Object("sides", () => shape.Many(() => shape.Ref("schemas/Side")));
        shape.Object("trail", () => shape.Many(() => shape.Ref("schemas/Link")));
    }

    /// <summary>What stands around one record: its list, its neighbours, the way to it, related records.</summary>
    private void WriteSurroundings(PageContract page)
    {
        shape.Object("list", () => shape.Json.WriteString("type", "string"));
        foreach (var way in (string[])["prev", "next", "prev_text", "next_text"])
            shape.Object(way, shape.NullableText);
        shape.Object("trail", () => shape.Many(() => shape.Ref("schemas/Link")));
        if (page.Blocks.Count > 0)
            shape.Object("related", () => shape.Many(() => WriteBlocks(page.Blocks)));
    }

    private static string[] Required(PageContract page) =>
        page.Calls switch
        {
            PageCalls.List =>
            [
                "outcome",
                "page",
                "title",
                "total",
                "records",
                "first",
                "prev",
                "next",
                "last",
                "order",
                "orders",
                "size",
                "sizes",
            ],
            PageCalls.Text => ["outcome", "page", "title", "text"],
            PageCalls.Read =>
            [
                "outcome",
                "page",
                "title",
                "id",
                "address",
                "fields",
                "links",
                "prev",
                "next",
                "prev_text",
                "next_text",
            ],
            PageCalls.Add => ["outcome", "page", "fields"],
            PageCalls.Edit or PageCalls.Delete => ["outcome", "page", "id", "address", "fields"],
            var other => throw new UnreachableException($"{other} has no schema."),
        };

    /// <summary>A list of the app, as the page of all lists tells it.</summary>
    /// <param name="withRecords">Whether the first records that a search found stand there as well.</param>
    private void WriteListed(bool withRecords)
    {
        shape.Json.WriteString("type", "object");
        shape.Strings("required", (string[])["page", "text", "address"]);
        shape.Object("properties", () =>
        {
            foreach (var name in (string[])["page", "text", "address"])
                shape.Object(name, () => shape.Json.WriteString("type", "string"));
            shape.Object("total", () => shape.Ref("schemas/Total"));
            if (withRecords)
                shape.Object("records", () => shape.Many(() => shape.Json.WriteString("type", "object")));
        });
    }

    private void WriteBlocks(IReadOnlyList<BlockContract> blocks)
    {
        if (blocks.Count == 1)
            WriteBlock(blocks[0]);
        else
            shape.Array("anyOf", () =>
            {
                foreach (var block in blocks)
                    shape.Item(() => WriteBlock(block));
            });
    }

    private void WriteBlock(BlockContract block)
    {
        shape.Json.WriteString("type", "object");
        shape.Strings("required", (string[])["record", "title"]);
        shape.Object("properties", () =>
        {
            shape.Object("record", () => shape.Json.WriteString("const", block.Record));
            shape.Object("title", () => shape.Json.WriteString("type", "string"));
            shape.Object("failed", () => shape.Json.WriteString("type", "boolean"));
            if (block.IsNotice)
            {
                shape.Object("notice", () => shape.Json.WriteString("type", "string"));
                return;
            }

            shape.Object("total", () => shape.Ref("schemas/Total"));
            shape.Object("records", () => shape.Many(() => WriteRecord(block.Fields, block.IdParameters)));
            shape.Object("chosen", () => shape.Json.WriteString("type", "string"));
            shape.Object("all", shape.NullableText);
            shape.Object("add", shape.NullableText);
        });
    }

    private void WriteRecord(IReadOnlyList<FieldContract> fields, IReadOnlyList<string> idParameters)
    {
        shape.Json.WriteString("type", "object");
        shape.Array("required", () => shape.Json.WriteStringValue("fields"));
        shape.Object("properties", () =>
        {
            WriteRecordMembers(fields, idParameters);
            shape.Object("links", () => shape.Many(() => shape.Ref("schemas/Link")));
        });
    }

    private void WriteRecordMembers(IReadOnlyList<FieldContract> fields, IReadOnlyList<string> idParameters)
    {
        shape.Object("id", () => WriteId(idParameters));
        shape.Object("address", shape.NullableText);
        shape.Object("fields", () =>
        {
            shape.Json.WriteString("type", "object");
            shape.Array("required", () =>
            {
                foreach (var field in fields.Where(field => !field.IsOptional))
                    shape.Json.WriteStringValue(field.Name);
            });
            shape.Object("properties", () =>
            {
                foreach (var field in fields)
                {
                    shape.Object(field.Name, () =>
                    {
                        shape.Json.WriteString("title", field.Label);
                        if (field.Shape == FieldShape.Plain)
                            WriteType(field.Kind, field.IsNullable);
                        else if (field.Shape == FieldShape.Reference)
                            WriteReference(field.IdParameters);
                        else
                            shape.Ref("schemas/" + field.Shape);
                    });
                }
            });
        });
    }

    private void WriteSent(PageContract page)
    {
        var must = page.Asked.Where(asked => asked.MustBeGiven).Select(asked => asked.Field.Name).ToList();
        shape.Json.WriteString("type", "object");
        shape.Array("required", () => shape.Json.WriteStringValue("fields"));
        shape.Json.WriteBoolean("additionalProperties", false);
        shape.Object("properties", () => shape.Object("fields", () =>
            {
                shape.Json.WriteString("type", "object");
                shape.Json.WriteBoolean("additionalProperties", false);
                if (must.Count > 0)
                    shape.Strings("required", must);
                shape.Object("properties", () =>
                {
                    foreach (var asked in page.Asked)
                        shape.Object(asked.Field.Name, () => WriteAsked(asked));
                });
            }));
    }

    private void WriteAsked(AskedContract asked)
    {
        var (field, rules) = (asked.Field, asked.Field.Rules);
        shape.Json.WriteString("title", field.Label);
        var explained = Explanation(asked.Kind);
        if (field.Help is not null || explained is not null)
            shape.Json.WriteString("description", string.Join(" ", new[] { field.Help, explained }.OfType<string>()));
        if (field.Choices.Count > 0 && asked.Kind == ValueKind.Text)
        {
            shape.Array("oneOf", () =>
            {
                foreach (var choice in field.Choices)
                {
                    shape.Item(() =>
                    {
                        shape.Json.WriteString("const", choice.Value);
                        shape.Json.WriteString("title", choice.Label);
                    });
                }

                if (asked.IsNullable)
                    shape.Item(() => shape.Json.WriteString("type", "null"));
            });
            return;
        }

        WriteType(asked.Kind, asked.IsNullable, isExplained: true);
        if (asked.Kind is ValueKind.Whole or ValueKind.Real)
        {
            if (rules.Least is { } least)
                shape.Json.WriteNumber("minimum", least);
            if (rules.Most is { } most)
                shape.Json.WriteNumber("maximum", most);
        }

        if (rules.MaxLength is { } longest)
            shape.Json.WriteNumber("maxLength", longest);
        if (rules.Required && asked.Kind == ValueKind.Text)
            shape.Json.WriteNumber("minLength", 1);
        if (rules.PatternText is { } pattern && ScriptPattern.Of(pattern) is { } script)
            shape.Json.WriteString("pattern", $"^(?:{script})$");
        if (rules.Example is { } example)
            shape.Array("examples", () => shape.Json.WriteStringValue(example));
    }

    /// <summary>The type of a value.</summary>
    /// <param name="isExplained">Whether its description is written already.</param>
    public void WriteType(ValueKind kind, bool nullable, bool isExplained = false)
    {
        var (type, format) = kind switch
        {
            ValueKind.Whole => ("integer", "int64"),
            ValueKind.Real => ("number", "double"),
            ValueKind.Boolean => ("boolean", null),
            ValueKind.Uuid => ("string", "uuid"),
            ValueKind.Date => ("string", "date"),
            ValueKind.Bytes => ("string", "byte"),
            ValueKind.Any => (null, null),
            _ => ("string", (string?)null),
        };
        if (type is null)
            return;
        if (nullable)
            shape.Array("type", () =>
            {
                shape.Json.WriteStringValue(type);
                shape.Json.WriteStringValue("null");
            });
        else
            shape.Json.WriteString("type", type);
        if (format is not null)
            shape.Json.WriteString("format", format);
        if (!isExplained && Explanation(kind) is { } explained)
            shape.Json.WriteString("description", explained);
    }

    private static string? Explanation(ValueKind kind) =>
        kind switch
        {
            ValueKind.Decimal => "An exact decimal number, as text.",
            ValueKind.Moment => "A moment as it is kept, in UTC with its offset, such as 2024-02-29T14:30:00Z.",
            _ => null,
        };
}
