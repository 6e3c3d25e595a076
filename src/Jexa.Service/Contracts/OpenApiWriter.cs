using System.Diagnostics;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Jexa.Core.Contracts;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Visits;
using Jexa.Service.Clients;

namespace Jexa.Service.Contracts;

/// <summary>
/// Writes a site as an OpenAPI 3.1 document: its paths and their parameters, the answers of each page, what can be sent to it,
/// and how it can fail.
/// </summary>
internal sealed class OpenApiWriter : IDisposable
{
    private static readonly JsonWriterOptions Options = new()
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Indented = true,
    };

    private readonly Site _site;
    private readonly IReadOnlyList<PageContract> _pages;
    private readonly ClientNames _schemas;
    private readonly IReadOnlyDictionary<string, PageExample> _examples;
    private readonly System.Buffers.ArrayBufferWriter<byte> _bytes = new(64 * 1024);
    private readonly Utf8JsonWriter _json;
    private readonly JsonShape _shape;
    private readonly OpenApiSchemas _types;

    private OpenApiWriter(Site site, IReadOnlyDictionary<string, PageExample> examples)
    {
        (_site, _examples) = (site, examples);
        _pages = PageContract.Of(site);
        _schemas = new ClientNames(
            _pages,
            ClientNames.Pascal,
            name => [name, name + "Sent"],
            ["Problem", "Reference", "Picture", "StoredFile", "Link", "Id", "Total", "Saved", "Side", "Choices"]
        );
        _json = new Utf8JsonWriter(_bytes, Options);
        _shape = new JsonShape(_json);
        _types = new OpenApiSchemas(_shape, _pages, _schemas);
    }

    /// <param name="examples">By page: addresses of real records, and their answers.</param>
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
        _shape.Object("info", () =>
        {
            _json.WriteString("title", _site.Frame.AppTitle);
            _json.WriteString("version", "1");
            _json.WriteString(
                "description",
                "The pages of this app as JSON: below /_jexa/json, or at their own addresses with Accept: "
                    + "application/json. Every answer tells its outcome; an error is problem details (RFC 9457)."
            );
        });
        // Below the first server, JSON needs no header. Generated clients often forget that header.
        _shape.Array("servers", () =>
        {
            Server(_site.Frame.Mount.Text + Web.JsonAddress.Prefix, "JSON without asking for it by a header");
            Server(Root, "JSON for Accept: application/json");
        });
        _shape.Array("security", () => { });
        _shape.Object("paths", () =>
        {
            foreach (var shared in _pages.GroupBy(page => PathOf(page)))
                _shape.Object(shared.Key, () => WritePath([.. shared]));
            if (_pages.Any(page => page.Asked.Any(asked => asked.Reference is not null || asked.Field.Choices.Count > 0)))
                _shape.Object("/_jexa/app/choices/{page}/{field}", () =>
                {
                    _shape.Array("servers", () => Server(Root, "Not a page: below the root alone"));
                    WriteChoices();
                });
        });
        _shape.Object("components", () =>
        {
            _shape.Object("schemas", _types.WriteAll);
            _shape.Object("responses", () =>
            {
                foreach (var problem in ProblemKind.All)
                    _shape.Object(problem.Name, () => WriteProblem(problem));
            });
        });
        _json.WriteEndObject();
        _json.Flush();
    }

    private string Root => _site.Frame.Mount.Text.Length == 0 ? "/" : _site.Frame.Mount.Text;

    private void Server(string url, string means) =>
        _shape.Item(() =>
        {
            _json.WriteString("url", url);
            _json.WriteString("description", means);
        });

    /// <summary>The path below the mount in OpenAPI notation: every parameter in braces, no query string.</summary>
    private static string PathOf(PageContract page) =>
        page.Page.Head.Template.Segments.Count == 0
            ? "/"
            : string.Concat(
                page.Page.Head.Template.Segments.Select(segment =>
                    "/"
                    + (
                        segment.Literal is { } literal
                            ? Uri.EscapeDataString(literal)
                            : $"{Uri.EscapeDataString(segment.Prefix)}{{{segment.Parameter}}}"
                                + $"{Uri.EscapeDataString(segment.Suffix)}"
                    )
                )
            );

    /// <summary>Pages with one path are one operation: the query string decides which of them answers.</summary>
    private void WritePath(IReadOnlyList<PageContract> pages)
    {
        _shape.Object("get", () =>
        {
            _json.WriteString(
                "operationId",
                string.Join(
                    "Or",
                    pages.Select((page, i) => i == 0 ? ClientNames.Camel(_schemas[page.Name]) : _schemas[page.Name])
                )
            );
            _json.WriteString("summary", string.Join("; ", pages.Select(page => page.Summary)));
            _shape.Strings("tags", pages.Select(page => page.Page.Record?.Name ?? "text").Distinct());
            WriteParameters(pages, []);
            _shape.Object("responses", () =>
            {
                _shape.Object("200", () => WriteGood(pages));
                _shape.Object("301", () =>
                    _json.WriteString("description", "The same under its canonical address, which Location tells.")
                );
                WriteProblems([
                    ProblemKind.BadAddress,
                    ProblemKind.Unknown,
                    .. pages.Any(page => page.Calls is PageCalls.Read or PageCalls.Edit or PageCalls.Delete)
                        ? (ProblemKind[])[ProblemKind.Gone]
                        : [],
                    ProblemKind.Failed,
                    ProblemKind.Unavailable,
                ]);
            });
        });
        foreach (var page in pages.Where(page => page.Calls is PageCalls.Edit or PageCalls.Add or PageCalls.Delete))
            WriteChange(page);
    }

    /// <summary>The choices of form fields.</summary>
    private void WriteChoices() => _shape.Object("get", () =>
        {
            _json.WriteString("operationId", "choicesOfField");
            _json.WriteString("summary", "The choices of a form's field: those whose label contains a text, or the first few");
            _shape.Array("parameters", () =>
            {
                var chosen = _pages
                    .SelectMany(page =>
                        page.Asked.Where(asked => asked.Reference is not null || asked.Field.Choices.Count > 0)
                            .Select(asked => (Page: page.Name, Field: asked.Field.Name))
                    )
                    .ToList();
                foreach (
                    var (name, texts) in new[]
                    {
                        ("page", chosen.Select(pair => pair.Page).Distinct()),
                        ("field", chosen.Select(pair => pair.Field).Distinct()),
                    }
                )
                {
                    _shape.Item(() =>
                    {
                        _json.WriteString("name", name);
                        _json.WriteString("in", "path");
                        _json.WriteBoolean("required", true);
                        _shape.Object("schema", () => _shape.Texts(texts));
                    });
                }

                Control("find", "A part of the label, or the whole ID.", () => _json.WriteString("type", "string"));
            });
            _shape.Object("responses", () =>
            {
                _shape.Object("200", () =>
                {
                    _json.WriteString("description", "The choices; more is true if there are others.");
                    _shape.Object("content", () =>
                        _shape.Object(Page.JsonType, () => _shape.Object("schema", () => _shape.Ref("schemas/Choices")))
                    );
                });
                WriteProblems([ProblemKind.Unknown, ProblemKind.Unavailable]);
            });
        });

    private void WriteChange(PageContract page)
    {
        var (method, verb) = page.Calls switch
        {
            PageCalls.Edit => ("patch", "change"),
            PageCalls.Add => ("post", "add"),
            PageCalls.Delete => ("delete", "delete"),
            var other => throw new UnreachableException($"{other} changes nothing."),
        };
        _shape.Object(method, () =>
        {
            _json.WriteString("operationId", verb + _schemas[page.Name]);
            _json.WriteString("summary", page.Summary);
            _shape.Array("tags", () => _json.WriteStringValue(page.Page.Record!.Name));
            WriteParameters([page], page.Calls == PageCalls.Add ? [] : ["If-Match"]);
            if (page.Calls != PageCalls.Delete)
            {
                _shape.Object("requestBody", () =>
                {
                    _json.WriteBoolean("required", true);
                    _shape.Object("content", () =>
                        _shape.Object(page.Calls == PageCalls.Edit ? Page.PatchType : Page.JsonType, () =>
                            _shape.Object("schema", () => _shape.Ref($"schemas/{_schemas[page.Name]}Sent"))
                        )
                    );
                });
            }

            _shape.Object("responses", () =>
            {
                WriteDone(page);
                WriteProblems([
                    ProblemKind.BadAddress,
                    ProblemKind.Untrusted,
                    ProblemKind.Unknown,
                    ProblemKind.Refused,
                    .. page.Calls == PageCalls.Add
                        ? []
                        : (ProblemKind[])[ProblemKind.Gone, ProblemKind.Conflict, ProblemKind.WhichVersion],
                    .. page.Calls == PageCalls.Delete
                        ? []
                        : (ProblemKind[])[ProblemKind.TooLarge, ProblemKind.OtherType, ProblemKind.Invalid],
                    ProblemKind.Failed,
                    ProblemKind.Unavailable,
                ]);
            });
        });
    }

    /// <summary>The answer to a change that was made.</summary>
    private void WriteDone(PageContract page)
    {
        switch (page.Calls)
        {
            case PageCalls.Edit:
                _shape.Object("200", () => WriteGood([page]));
                break;
            case PageCalls.Add:
                _shape.Object("201", () =>
                {
                    _json.WriteString("description", "The record was made.");
                    _shape.Object("headers", () =>
                        _shape.Object("Location", () => _shape.Object("schema", () => _json.WriteString("type", "string")))
                    );
                    _shape.Object("content", () =>
                        _shape.Object(Page.JsonType, () => _shape.Object("schema", () => _shape.Ref("schemas/Saved")))
                    );
                });
                break;
            case PageCalls.Delete:
                _shape.Object("204", () => _json.WriteString("description", "The record was deleted."));
                break;
            default:
                throw new UnreachableException($"{page.Calls} changes nothing.");
        }
    }

    private void WriteProblems(IEnumerable<ProblemKind> problems)
    {
        foreach (var problem in problems)
            _shape.Object($"{problem.Status}", () => _shape.Ref("responses/" + problem.Name));
    }

    private void WriteProblem(ProblemKind problem)
    {
        // Not a narrower schema for each status: generated classes would have the outcome twice.
        _json.WriteString("description", $"{problem.Means} Outcome: {string.Join(" or ", problem.Outcomes)}.");
        _shape.Object("content", () =>
            _shape.Object("application/problem+json", () => _shape.Object("schema", () => _shape.Ref("schemas/Problem")))
        );
    }

    private void WriteGood(IReadOnlyList<PageContract> pages)
    {
        _json.WriteString(
            "description",
            string.Join(
                "; ",
                pages.Select(page =>
                    page.Calls switch
                    {
                        PageCalls.List => $"A window of the {page.Page.Record!.Many}",
                        PageCalls.Text => "The text",
                        PageCalls.Read or PageCalls.Edit or PageCalls.Add or PageCalls.Delete => $"The {page.Page.Record!.One}",
                        var other => throw new UnreachableException($"{other} has no contract."),
                    }
                )
            ) + "."
        );
        _shape.Object("headers", () =>
        {
            Header(
                "ETag",
                pages.Any(page => page.Calls is PageCalls.Edit or PageCalls.Delete)
                    ? "The record's version, for If-Match."
                    : "For If-None-Match: 304 if nothing has changed."
            );
            if (pages.Any(page => page.Calls is PageCalls.List or PageCalls.Read))
                Header("Link", "Registered relations (RFC 8288): canonical, collection, first, prev, next, last.");
            if (pages.Any(page => page.Calls == PageCalls.List))
                Header("Link-Template", "Where each record of the list is (RFC 9652): relation item.");
        });
        _shape.Object("content", () => _shape.Object(Page.JsonType, () => WriteContent(pages)));
        if (pages.Count == 1)
            WriteLinks(pages[0]);
    }

    /// <summary>Schema and example of what one of the pages answers.</summary>
    private void WriteContent(IReadOnlyList<PageContract> pages)
    {
        _shape.Object("schema", () =>
        {
            if (pages.Count == 1)
                _shape.Ref("schemas/" + _schemas[pages[0].Name]);
            else
                _shape.Array("oneOf", () =>
                {
                    foreach (var page in pages)
                        _shape.Item(() => _shape.Ref("schemas/" + _schemas[page.Name]));
                });
        });
        var examples = pages.Select(page => _examples.GetValueOrDefault(page.Name)?.Json).OfType<ReadOnlyMemory<byte>>();
        foreach (var example in examples.Take(1))
        {
            _json.WritePropertyName("example");
            _json.WriteRawValue(example.Span);
        }
    }

    private void Header(string name, string means) => _shape.Object(name, () =>
        {
            _json.WriteString("description", means);
            _shape.Object("schema", () => _json.WriteString("type", "string"));
        });

    /// <summary>Where the links of a record lead, by values of the request or the answer.</summary>
    private void WriteLinks(PageContract page)
    {
        if (page.Page is not DetailPage detail)
            return;
        var links = detail
            .Links.Select(link => (link.Plan, To: _site.Find(link.Plan.Page)))
            .Where(link => link.To is not null && link.Plan.Fillers.Count == link.Plan.ParameterNames.Count)
            .Select(link =>
                (
                    link.Plan.Page,
                    link.To,
                    Passed: link.Plan.ParameterNames.Zip(link.Plan.Fillers, (name, filler) =>
                            (name, From: SourceOf(page, filler.Field))
                        )
                        .ToList()
                )
            )
            .Where(link => link.Passed.Count > 0 && link.Passed.TrueForAll(pass => pass.From is not null))
            .DistinctBy(link => link.Page)
            .ToList();
        if (links.Count == 0)
            return;
        _shape.Object("links", () =>
        {
            foreach (var (name, to, passed) in links)
            {
                _shape.Object(name, () =>
                {
                    var sharing = _pages.Where(other => PathOf(other) == PathOf(_pages.First(one => one.Page == to))).ToList();
                    _json.WriteString(
                        "operationId",
                        string.Join(
                            "Or",
                            sharing.Select((one, i) => i == 0 ? ClientNames.Camel(_schemas[one.Name]) : _schemas[one.Name])
                        )
                    );
                    _shape.Object("parameters", () =>
                    {
                        foreach (var (parameter, from) in passed)
                            _json.WriteString(parameter, from);
                    });
                });
            }
        });
    }

    /// <summary>A runtime expression for a field; null if neither request nor answer has it directly.</summary>
    private static string? SourceOf(PageContract page, string field)
    {
        if (page.Parameters.FirstOrDefault(parameter => parameter.Of.Path is null && parameter.Of.Field.Name == field) is { } own)
            return $"$request.{(own.InQuery ? "query" : "path")}.{own.Name}";
        return
            page.Fields.FirstOrDefault(shown => shown.Name == field && !shown.Name.Contains('~') && !shown.Name.Contains('/'))
                is { } known
            ? $"$response.body#/fields/{known.Name}{(known.Shape == FieldShape.Reference ? "/id" : "")}"
            : null;
    }

    private void WriteParameters(IReadOnlyList<PageContract> pages, string[] headers)
    {
        var written = new HashSet<string>();
        var isGet = headers.Length == 0 && pages[0].Calls != PageCalls.Add;
        _shape.Array("parameters", () =>
        {
            foreach (var page in pages)
            {
                for (var i = 0; i < page.Parameters.Count; i++)
                {
                    var parameter = page.Parameters[i];
                    if (!written.Add(parameter.Name))
                        continue;
                    var sample = _examples.GetValueOrDefault(page.Name)?.Ids.ElementAtOrDefault(i);
                    _shape.Item(() => WriteParameter(parameter, pages.Count == 1 && parameter.Of.Required, sample));
                }

                if (isGet && page.Page is ListPage list)
                    WriteControls(page, list, written);
            }

            foreach (var header in headers)
            {
                _shape.Item(() =>
                {
                    _json.WriteString("name", header);
                    _json.WriteString("in", "header");
                    _json.WriteBoolean("required", true);
                    _json.WriteString(
                        "description",
                        "The version that the change is for: the ETag that this address gives; or *."
                    );
                    _shape.Object("schema", () => _json.WriteString("type", "string"));
                });
            }
        });
    }

    /// <summary>What a list can be asked for besides its parameters.</summary>
    /// <param name="written">The names of the parameters that are written.</param>
    private void WriteControls(PageContract page, ListPage list, HashSet<string> written)
    {
        if (list.Plan.CanSearch && written.Add("find"))
            Control("find", "What to look for.", () => _json.WriteString("type", "string"));
        if (page.Orders.Count > 0 && written.Add("order"))
            Control("order", "What to order by; a minus before it turns the order round.", () =>
                _shape.Texts(page.Orders.SelectMany(order => new[] { order, "-" + order }))
            );
        if (written.Add("size"))
            Control("size", "Records at a time.", () =>
            {
                _json.WriteString("type", "integer");
                _shape.Array("enum", () =>
                {
                    foreach (var size in list.Sizes)
                        _json.WriteNumberValue(size);
                });
            });
        if (written.Add("after"))
            Control("after", "A place that the list itself gave out, behind which the window begins: follow next.", () =>
                _json.WriteString("type", "string")
            );
        if (written.Add("before"))
            Control("before", "The same, before which the window ends: follow prev.", () => _json.WriteString("type", "string"));
    }

    private void Control(string name, string means, Action schema) =>
        _shape.Item(() =>
        {
            _json.WriteString("name", name);
            _json.WriteString("in", "query");
            _json.WriteString("description", means);
            _shape.Object("schema", schema);
        });

    private void WriteParameter(ParameterContract parameter, bool required, string? sample)
    {
        _json.WriteString("name", parameter.Name);
        _json.WriteString("in", parameter.InQuery ? "query" : "path");
        _json.WriteString("description", Formats(parameter));
        if (required || !parameter.InQuery)
            _json.WriteBoolean("required", true);
        _shape.Object("schema", () =>
        {
            if (!parameter.Of.Many)
            {
                WriteKey(parameter);
                return;
            }

            _json.WriteString("type", "array");
            _json.WriteNumber("maxItems", 50);
            _shape.Object("items", () => WriteKey(parameter));
        });
        if (parameter.Of.Many)
            _json.WriteBoolean("explode", true);
        if (string.IsNullOrEmpty(sample) || parameter.Of.Many)
            return;
        _json.WritePropertyName("example");
        if (
            parameter.Kind is ValueKind.Whole or ValueKind.Month
            && long.TryParse(sample, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number)
        )
            _json.WriteNumberValue(number);
        else if (parameter.Kind == ValueKind.Boolean)
            _json.WriteBooleanValue(sample == "true");
        else
            _json.WriteStringValue(sample);
    }

    private static string Formats(ParameterContract parameter) => Core.Formats.Labels.Capital(parameter.Of.Key.Looks) + ".";

    private void WriteKey(ParameterContract parameter)
    {
        switch (parameter.Of.Key)
        {
            case IntegerKey key:
                _json.WriteString("type", "integer");
                _json.WriteString("format", "int64");
                if (key.Min != long.MinValue)
                    _json.WriteNumber("minimum", key.Min);
                if (key.Max != long.MaxValue)
                    _json.WriteNumber("maximum", key.Max);
                break;
            case TextKey key:
                _json.WriteString("type", "string");
                _json.WriteNumber("minLength", 1);
                if (key.Form.MaxLength is { } longest)
                    _json.WriteNumber("maxLength", longest);
                if (key.Form.Pattern is { } pattern && !key.FoldsCase && ScriptPattern.Of(pattern) is { } script)
                    _json.WriteString("pattern", $"^(?:{script})$");
                break;
            case BytesKey:
                _json.WriteString("type", "string");
                _json.WriteString("pattern", $"^{BytesKey.Pattern}$");
                break;
            case NumberKey key:
                _json.WriteString("type", "string");
                _json.WriteString("pattern", key.IsWhole ? "^[-+]?[0-9]+$" : "^[-+]?[0-9]+(\\.[0-9]+)?$");
                break;
            case WordKey key:
                _shape.Texts(key.Words);
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
                _types.WriteType(parameter.Kind, false);
                break;
        }
    }
}
