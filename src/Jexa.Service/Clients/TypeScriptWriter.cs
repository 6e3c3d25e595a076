using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jexa.Core.Addresses;
using Jexa.Core.Contracts;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Service.Clients;

/// <summary>
/// Writes a site as one TypeScript file without dependencies: for each page a typed address, its answers, and what can be sent to
/// it; and functions that read addresses, load and save records, and keep screens in step with their address.
/// </summary>
public sealed partial class TypeScriptWriter
{
    private static readonly JsonSerializerOptions Relaxed = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private readonly Site _site;
    private readonly IReadOnlyList<PageContract> _pages;
    private readonly ClientNames _types;
    private readonly ClientNames _members;
    private readonly StringBuilder _text = new();

    internal TypeScriptWriter(Site site)
    {
        _site = site;
        _pages = PageContract.Of(site);
        _types = new ClientNames(
            _pages,
            ClientNames.Pascal,
            name => [$"{name}Parameters", $"{name}Fields", $"{name}Changes", $"{name}Values"],
            Declared()
                .Matches(ClientRuntime.TypeScript)
                .Select(match => match.Groups[1].Value)
                .Concat(["PageParameters", "PageValues"])
        );
        _members = new ClientNames(_pages, ClientNames.Camel, name => [name], []);
    }

    /// <summary>The whole file.</summary>
    public static string Write(Site site) => new TypeScriptWriter(site).Write();

    /// <summary>A call of a page with a real sample, as a developer would write it.</summary>
    /// <param name="ids">The texts of its parameters; empty for one that is left out.</param>
    internal string Call(Page page, IReadOnlyList<string> ids)
    {
        var contract = PageContract.Of(page);
        var given = contract
            .Parameters.Select((parameter, i) => (parameter, text: i < ids.Count ? ids[i] : ""))
            .Where(pair => pair.text.Length > 0)
            .Select(pair => $"{pair.parameter.Name}: {Literal(pair.parameter.Kind, pair.text, pair.parameter.Of.Many)}")
            .ToList();
        return $"const loaded = await pages.{_members[page.Name]}.load(service, "
            + $"{(given.Count == 0 ? "{}" : $"{{ {string.Join(", ", given)} }}")});";
    }

    private string Write()
    {
        Line(
            $"// Written from the app “{Plain(_site.Frame.AppTitle)}” by: jexa client typescript. Do not "
                + "change it; write it again."
        );
        Line(
            "// It needs nothing else. Begin with:  const service = connect(\"http://127.0.0.1:7440\");  "
                + "then  pages.….load(service, { … })"
        );
        Line("/* eslint-disable */");
        Line("");
        Line("/* ---- What the pages of this app take and give. ---- */");
        foreach (var page in _pages)
            WriteTypes(page);
        WriteMap("PageParameters", page => $"{_types[page.Name]}Parameters");
        WriteMap("PageValues", ValueOf);
        Line("export type PageName = keyof PageParameters;");
        Line("");
        _text.Append(ClientRuntime.TypeScript).Append('\n');
        Line("/* ---- The pages of this app. ---- */");
        Line("");
        Line($"const mount: readonly string[] = {Text(_site.Frame.Mount.Segments)};");
        Line($"const home: string | null = {(_site.Home?.Head.AddressWithoutParameters is { } alone ? Text(alone) : "null")};");
        Line("const plans: readonly Plan[] = [");
        foreach (var page in _pages)
            WritePlan(page);
        Line("];");
        Line("");
        Line("export const pages = {");
        foreach (var page in _pages)
            WritePage(page);
        Line("};");
        return UsedParts.Of(_text.ToString());
    }

    private void WriteMap(string name, Func<PageContract, string> typeOf)
    {
        Line("");
        Line($"export interface {name} {{");
        foreach (var page in _pages)
            Line($"  readonly {Member(page.Name)}: {typeOf(page)};");
        Line("}");
    }

    private string ValueOf(PageContract page)
    {
        var name = _types[page.Name];
        return page.Calls switch
        {
            PageCalls.List => $"Listed<{name}Fields{IdOf(page)}>",
            PageCalls.Read => $"Shown<{name}Fields, {Blocks(page)}{IdOf(page)}>",
            PageCalls.Text => "Written",
            PageCalls.Edit or PageCalls.Add or PageCalls.Delete => $"Held<{name}Fields{IdOf(page)}>",
            var other => throw new UnreachableException($"{other} is not written in TypeScript."),
        };
    }

    /// <summary>The last argument of a type with an ID. An ID of one parameter is the default.</summary>
    private static string IdOf(PageContract page) => IdOf(page.IdParameters) is { } id ? ", " + id : "";

    private static string? IdOf(IReadOnlyList<string> parameters) =>
        parameters.Count < 2 ? null : $"IdOf<{string.Join(" | ", parameters.Select(Text))}>";

    private string Blocks(PageContract page) => page.Blocks.Count == 0 ? "never" : $"{_types[page.Name]}Values";

    private void WriteTypes(PageContract page)
    {
        var name = _types[page.Name];
        Line("");
        Line($"/** {Plain(page.Summary)}: `{Plain(page.Page.Head.Template.Text)}` */");
        Line($"export interface {name}Parameters {{");
        foreach (var parameter in page.Parameters)
        {
            var type = TypeOf(parameter);
            Line(
                $"  readonly {Member(parameter.Name)}{(parameter.Of.Required ? "" : "?")}: "
                    + $"{(parameter.Of.Many ? $"readonly {(type.Contains('|') ? $"({type})" : type)}[]" : type)}"
                    + $"{(parameter.Of.Required ? "" : " | undefined")};"
            );
        }

        Line("}");
        if (page.Calls == PageCalls.Text)
            return;
        Line($"export interface {name}Fields {{");
        foreach (var field in page.Fields)
            Line($"  {Field(field)};");
        Line("}");
        if (page.Blocks.Count > 0)
        {
            Line($"export type {name}Values =");
            foreach (var block in page.Blocks)
                Line(
                    $"  | Block<{Text(block.Record)}, "
                        + $"{(block.IsNotice ? "never" : $"{{ {string.Join("; ", block.Fields.Select(Field))} }}")}"
                        + $"{(IdOf(block.IdParameters) is { } id ? ", " + id : "")}>"
                );
            _text.Length--;
            _text.Append(";\n");
        }

        if (page.Asked.Count == 0)
            return;
        Line($"export interface {name}Changes {{");
        foreach (var asked in page.Asked)
            Line(
                $"  readonly {Member(asked.Field.Name)}{(page.Calls == PageCalls.Add && !asked.MustBeGiven ? "?" : "")}: "
                    + $"{Sent(asked)}{(asked.IsNullable ? " | null" : "")};"
            );
        Line("}");
    }

    private static string ShapeOf(FieldContract field) =>
        field.Shape switch
        {
            FieldShape.Reference => IdOf(field.IdParameters) is { } id ? $"Reference<{id}>" : "Reference",
            FieldShape.Picture => "Picture",
            FieldShape.StoredFile => "StoredFile",
            _ => TypeOf(field.Kind),
        };

    private static string Field(FieldContract field) =>
        $"readonly {Member(field.Name)}{(field.IsOptional ? "?" : "")}: {ShapeOf(field)}"
        + $"{(field.IsNullable || field.Shape is FieldShape.Picture or FieldShape.StoredFile ? " | null" : "")}";

    private void WritePlan(PageContract page)
    {
        var head = page.Page.Head;
        _text.Append($"  {{ page: {Text(page.Name)}, path: {Path(head.Template)}, parameters: [");
        _text.AppendJoin(
            ", ",
            page.Parameters.Select(parameter =>
                $"{{ name: {Text(parameter.Name)}, key: "
                + $"{KeyCode.Of(parameter).TypeScript}{(parameter.Of.Required ? "" : ", optional: true")}"
                + $"{(parameter.Of.Many ? ", many: true" : "")}"
                + $"{(parameter.YearOf is { } year ? $", yearOf: {Text(year)}" : "")} }}"
            )
        );
        _text.Append(']');
        var former = Former(page.Page).ToList();
        if (former.Count > 0)
        {
            var paths = former.Select(old => $"{{ path: {Path(old.Template)}, query: {Text(old.Template.QueryParameters)} }}");
            _text.Append($", was: [{string.Join(", ", paths)}]");
        }

        _text.Append(" },\n");
    }

    private IEnumerable<PageHead> Former(Page page) =>
        _site.Former.Where(former => former.Now == page).Select(former => former.Head);

    private static string Path(PathTemplate template) => $"[{string.Join(", ", template.Segments.Select(Segment))}]";

    private static string Segment(SegmentPattern segment) =>
        segment.Literal is { } literal
            ? Text(literal)
            : $"[{Text(segment.Prefix)}, {Text(segment.Parameter!)}, {Text(segment.Suffix)}]";

    private void WritePage(PageContract page)
    {
        var name = _types[page.Name];
        var fields = Text(page.Fields.Where(field => !field.IsOptional).Select(field => field.Name));
        Line($"  /** {Plain(page.Summary)}: `{Plain(page.Page.Head.Template.Text)}` */");
        Line(
            $"  {_members[page.Name]}: "
                + page.Calls switch
                {
                    PageCalls.List => $"listPage<{name}Parameters, "
                        + $"{(page.Orders.Count == 0 ? "never" : string.Join(" | ", page.Orders.Select(Text)))}, "
                        + $"{name}Fields{IdOf(page)}>({Text(page.Name)}, {fields}),",
                    PageCalls.Read =>
                        $"detailPage<{name}Parameters, {name}Fields, {Blocks(page)}{IdOf(page)}>({Text(page.Name)}, {fields}),",
                    PageCalls.Edit => $"editPage<{name}Parameters, {name}Fields, {name}Changes{IdOf(page)}>({Text(page.Name)}, "
                        + $"{fields}, {Form(page)}),",
                    PageCalls.Add =>
                        $"newPage<{name}Parameters, {name}Fields, {name}Changes>({Text(page.Name)}, {fields}, {Form(page)}),",
                    PageCalls.Delete => $"deletePage<{name}Parameters, {name}Fields{IdOf(page)}>({Text(page.Name)}, {fields}),",
                    PageCalls.Text => $"textPage<{name}Parameters>({Text(page.Name)}),",
                    var other => throw new UnreachableException($"{other} is not written in TypeScript."),
                }
        );
    }

    private static string Form(PageContract page)
    {
        var text = new StringBuilder("[\n");
        foreach (var asked in page.Asked)
        {
            var (field, rules) = (asked.Field, asked.Field.Rules);
            text.Append(
                $"    {{ name: {Text(field.Name)}, label: {Text(field.Label)}, input: "
                    + $"{Text(Words(field.Input))}, required: {(rules.Required ? "true" : "false")}"
            );
            if (field.Help is { } help)
                text.Append($", help: {Text(help)}");
            if ((rules.Least?.ToString(CultureInfo.InvariantCulture) ?? Day(field, rules.First)) is { } least)
                text.Append($", least: {Text(least)}");
            if ((rules.Most?.ToString(CultureInfo.InvariantCulture) ?? Day(field, rules.Last)) is { } most)
                text.Append($", most: {Text(most)}");
            if (rules.MaxLength is { } longest)
                text.Append($", longest: {longest}");
            if (rules.Scale is { } digits)
                text.Append($", digits: {digits}");
            if (rules.PatternText is { } pattern && ScriptPattern.Of(pattern) is not null)
                text.Append($", form: {Text(pattern)}");
            if (rules.Example is { } example)
                text.Append($", example: {Text(example)}");
            if (field.Choices.Count > 0)
            {
                var choices = field.Choices.Select(choice => $"{{ value: {Text(choice.Value)}, label: {Text(choice.Label)} }}");
                text.Append($", choices: [{string.Join(", ", choices)}]");
            }

            if (page.Calls == PageCalls.Add && field.Default.Length > 0 && field.Default != FormField.Now)
                text.Append($", begins: {Text(field.Default)}");
            if (asked.Reference is { } record)
                text.Append($", record: {Text(record.Name)}");
            text.Append(" },\n");
        }

        return text.Append("  ]").ToString();
    }

    private static string? Day(FormField field, DateTime? moment) =>
        moment?.ToString(field.Type == FieldType.Date ? "yyyy-MM-dd" : "yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture);

    private static string Words(InputKind input) =>
        input == InputKind.LongText ? "long-text" : input.ToString().ToLowerInvariant();

    private static string TypeOf(ParameterContract parameter) =>
        parameter.Kind switch
        {
            ValueKind.Word => string.Join(" | ", parameter.Words.Select(Text)),
            ValueKind.Decimal => "Decimal | number",
            var kind => TypeOf(kind),
        };

    private static string Sent(AskedContract asked) =>
        asked.Field.Choices.Count > 0 && asked.Kind is ValueKind.Text
            ? string.Join(" | ", asked.Field.Choices.Select(choice => Text(choice.Value)))
        : asked.Kind == ValueKind.Decimal ? "Decimal | number"
        : TypeOf(asked.Kind);

    private static string TypeOf(ValueKind kind) =>
        kind switch
        {
            ValueKind.Whole => "Whole",
            ValueKind.Decimal => "Decimal",
            ValueKind.Real or ValueKind.Year => "number",
            ValueKind.Month => "Month",
            ValueKind.Boolean => "boolean",
            ValueKind.Uuid => "Uuid",
            ValueKind.Date => "Day",
            ValueKind.Moment => "Moment",
            ValueKind.Any => "string | number | boolean | null",
            _ => "string",
        };

    /// <summary>A value as it is written in code.</summary>
    private static string Literal(ValueKind kind, string text, bool many)
    {
        var one = kind is ValueKind.Whole or ValueKind.Year or ValueKind.Month
            ? text.TrimStart('0') is var digits && digits.Length > 15
                ? digits + "n"
                : digits.Length == 0
                    ? "0"
                    : digits
            : kind == ValueKind.Boolean
                ? text
                : Text(text);
        return many ? $"[{one}]" : one;
    }

    private static string Member(string name) => Identifier().IsMatch(name) ? name : Text(name);

    internal static string Text(string text) =>
        JsonSerializer.Serialize(text, Relaxed).Replace("\u2028", "\\u2028").Replace("\u2029", "\\u2029");

    private static string Text(IEnumerable<string> texts) => $"[{string.Join(", ", texts.Select(Text))}]";

    /// <summary>A text that cannot end the comment around it.</summary>
    private static string Plain(string text) =>
        new([.. text.Replace("*/", "* /").Select(c => char.IsControl(c) || c is '\u2028' or '\u2029' ? ' ' : c)]);

    private void Line(string text) => _text.Append(text).Append('\n');

    [GeneratedRegex(
        @"^(?:export )?(?:const|type|interface|class|function|async function|let) ([A-Za-z_]\w*)",
        RegexOptions.Multiline
    )]
    private static partial Regex Declared();

    [GeneratedRegex(@"^[A-Za-z_$][A-Za-z0-9_$]*$")]
    private static partial Regex Identifier();
}
