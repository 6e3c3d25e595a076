using Jexa.Core.Values;

namespace Jexa.Core.Definitions;

/// <summary>
/// Reads an app file into its definition. Everything that can be said from the text alone is said here, all at once; what
/// needs the source is the compiler's.
/// </summary>
public static class AppFileReader
{
    private static readonly string[] PageKinds = ["list", "detail"];
    private static readonly string[] LaterPageKinds = ["edit", "new", "text"];

    /// <summary>The largest app file that is read, in bytes.</summary>
    public const int MaxBytes = AppFileTree.MaxBytes;

    /// <summary>The definition, as far as it could be read; null where there is nothing to go on with.</summary>
    /// <param name="file">The file's name as findings show it; relative connections start from its folder.</param>
    public static AppDefinition? Read(string file, ReadOnlySpan<byte> bytes, FindingList findings)
    {
        if (AppFileTree.Read(file, bytes, findings) is not { } tree) return null;
        if (MappingReader.Of(tree, "the app file", findings) is not { } app) return null;
        var title = app.RequiredText("app", "NAME OF THE APP") ?? new Written("", app.At);
        var home = app.Text("home");
        var origins = app.Texts("origins");
        foreach (var origin in origins.Where(origin => !IsOrigin(origin.Value)))
            findings.Add(FindingCodes.UnknownWord, origin.At, $"“{origin}” is not an origin.", "Write scheme, host and port, and no path.",
                found: origin.Value, expected: "such as https://app.example or http://localhost:5173");
        var sources = Section(app, "sources", "register: { engine: sqlite, connection: register.db }", findings, ReadSource);
        var records = Section(app, "records", "bridge: { from: register.bridge }", findings, ReadRecord);
        var pages = Section(app, "pages", "bridges: { path: /bridges, list: bridge }", findings, ReadPage);
        app.Finish();
        return new AppDefinition(file, title, home, origins, sources, records, pages, Lines(app.Value("pages")));
    }

    private static List<PageLines> Lines(Node? pages) =>
        [.. ((pages as MappingNode)?.Entries ?? []).Where(entry => entry.Key is ScalarNode).Select(entry => new PageLines(((ScalarNode)entry.Key).Text, entry.Value.LastLine))];

    private static List<T> Section<T>(
        MappingReader app, string key, string example, FindingList findings, Func<Written, MappingReader, FindingList, T?> read)
        where T : class
    {
        if (app.Value(key) is not { } node)
        {
            findings.Add(FindingCodes.MissingKey, app.At, $"The app file lacks the key “{key}”.", $"Add {key}: and below it, indented, {example}",
                expected: key);
            return [];
        }

        var one = key[..^1];
        var items = new List<T>();
        if (MappingReader.Of(node, $"“{key}”", findings) is not { } section) return items;
        foreach (var (name, value) in section.Named)
        {
            if (!IsName(name.Value))
            {
                findings.Add(FindingCodes.BadName, name.At, $"“{name}” cannot name a {one}.", "Use letters, digits, hyphens and _, beginning with a letter.",
                    found: name.Value, expected: "a name");
                continue;
            }

            if (MappingReader.Of(value, $"the {one} “{name}”", findings) is not { } reader) continue;
            if (read(name, reader, findings) is { } item) items.Add(item);
            reader.Finish();
        }

        return items;
    }

    private static SourceDefinition? ReadSource(Written name, MappingReader source, FindingList findings)
    {
        var engine = source.RequiredText("engine", "sqlite");
        var connection = source.RequiredText("connection", "register.db");
        return engine is null || connection is null ? null : new SourceDefinition(name, engine, connection);
    }

    private static RecordDefinition? ReadRecord(Written name, MappingReader record, FindingList findings)
    {
        var origin = record.RequiredText("from", "SOURCE.TABLE");
        var key = record.Texts("key");
        var label = record.Text("label");
        var one = record.Text("one");
        var many = record.Text("many");
        var unique = record.Text("unique");
        if (unique is not null and not { Value: "assumed" })
            findings.AddUnknown(FindingCodes.UnknownWord, unique, "promise about the key called", ["assumed"]);
        var visible = ReadConditions(record, findings);
        var fields = ReadFields(record, findings);
        if (origin is null) return null;
        var point = origin.Value.IndexOf('.');
        if (point <= 0 || point == origin.Value.Length - 1)
        {
            findings.Add(FindingCodes.WrongShape, origin.At, $"“{origin}” does not name a table of a source.", "Write the source's name, a point and the table's name.",
                found: origin.Value, expected: "SOURCE.TABLE");
            return null;
        }

        return new RecordDefinition(name, origin with { Value = origin.Value[..point] },
            new Written(origin.Value[(point + 1)..], origin.Of(point + 1)) { IsOneRun = origin.IsOneRun },
            key, label, one, many, unique is not null, visible, fields);
    }

    private static List<ConditionDefinition> ReadConditions(MappingReader record, FindingList findings)
    {
        var conditions = new List<ConditionDefinition>();
        if (record.Value("visible") is not { } node || MappingReader.Of(node, "“visible”", findings) is not { } visible) return conditions;
        foreach (var (field, value) in visible.Named)
            if (ReadCondition(field, value, findings) is { } condition) conditions.Add(condition);
        return conditions;
    }

    private static ConditionDefinition? ReadCondition(Written field, Node value, FindingList findings)
    {
        if (value is not MappingNode)
            return MappingReader.AsText(value, field.Value, findings) is { } equal ? new ConditionDefinition(field, ConditionKind.Equal, [equal]) : null;
        var reader = MappingReader.Of(value, $"the condition on “{field}”", findings)!;
        var not = reader.Text("not");
        var oneOf = reader.Texts("one_of");
        var state = reader.Text("is");
        reader.Finish();
        if (state is not null and not { Value: "empty" or "filled" })
        {
            findings.AddUnknown(FindingCodes.UnknownWord, state, "state called", ["empty", "filled"]);
            return null;
        }

        if ((not is null ? 0 : 1) + (oneOf.Count == 0 ? 0 : 1) + (state is null ? 0 : 1) != 1)
        {
            findings.Add(FindingCodes.WrongShape, reader.At, $"The condition on “{field}” must say exactly one thing.",
                "Write not: VALUE, one_of: [VALUE, …], is: empty or is: filled.", expected: "one of not, one_of, is");
            return null;
        }

        return not is not null ? new ConditionDefinition(field, ConditionKind.Not, [not])
            : state is null ? new ConditionDefinition(field, ConditionKind.OneOf, oneOf)
            : new ConditionDefinition(field, state.Value == "empty" ? ConditionKind.Empty : ConditionKind.Filled, []);
    }

    private static List<FieldDefinition> ReadFields(MappingReader record, FindingList findings)
    {
        var fields = new List<FieldDefinition>();
        if (record.Value("fields") is not { } node || MappingReader.Of(node, "“fields”", findings) is not { } section) return fields;
        foreach (var (name, value) in section.Named)
        {
            if (MappingReader.Of(value, $"the field “{name}”", findings) is not { } field) continue;
            var type = field.Text("type");
            if (type is not null && !FieldTypes.TryParse(type.Value, out _))
                findings.AddUnknown(FindingCodes.UnknownWord, type, "field type", FieldTypes.Words);
            fields.Add(new FieldDefinition(name, field.Text("label"), type, field.Flag("secret"), field.Text("pattern"), field.Number("max_length", 1, 4096),
                field.Text("such_as")));
            field.Finish();
        }

        return fields;
    }

    private static PageDefinition? ReadPage(Written name, MappingReader page, FindingList findings)
    {
        var path = page.RequiredText("path", $"/{name}");
        var was = page.Texts("was");
        var kinds = PageKinds.Concat(LaterPageKinds).Where(page.Has).ToList();
        var title = page.Text("title");
        var show = page.Texts("show");
        var order = page.Texts("order");
        var links = page.Items("links").Select(item => ReadLink(item, findings)).OfType<LinkDefinition>().ToList();
        var by = ReadPairs(page, "by", findings);
        var ids = ReadIds(page, findings);
        if (kinds.Count != 1)
        {
            var (code, say) = kinds.Count == 0
                ? (FindingCodes.MissingKey, "does not say whether it is a list or a detail page")
                : (FindingCodes.WrongShape, $"is said to be {string.Join(" and ", kinds)} at once");
            findings.Add(code, page.At, $"The page “{name}” {say}.", "Add the line list: RECORD or detail: RECORD, one of them.", expected: "list or detail");
            return null;
        }

        if (LaterPageKinds.Contains(kinds[0]))
        {
            findings.Add(FindingCodes.PageKindNotServed, page.PlaceOf(kinds[0]), $"This version does not serve {kinds[0]} pages yet.",
                "Remove the page; links to it may stay, and say that the page is not there yet.", found: kinds[0], expected: "list or detail");
            return null;
        }

        var kind = kinds[0] == "list" ? PageKind.List : PageKind.Detail;
        if (kind == PageKind.Detail) ReportOther("order", "A detail page has no order.");
        if (kind == PageKind.List) ReportOther("by", "A list has no ID.");
        if (kind == PageKind.List) ReportOther("ids", "A list has no ID.");
        var record = page.Text(kinds[0]);
        return path is null || record is null ? null
            : new PageDefinition(name, path, was, kind, record, title, show, [.. order.Select(ReadOrder)], links, by, ids);

        void ReportOther(string key, string message)
        {
            if (page.Has(key))
                findings.Add(FindingCodes.KeyOfOtherPageKind, page.PlaceOf(key), message, $"Remove “{key}”.", found: key);
        }
    }

    private static OrderDefinition ReadOrder(Written word) => word.Value.StartsWith('-')
        ? new OrderDefinition(word with { Value = word.Value[1..], At = word.At.Right(1) }, true)
        : new OrderDefinition(word, false);

    private static LinkDefinition? ReadLink(Node node, FindingList findings)
    {
        if (MappingReader.Of(node, "a link", findings) is not { } link) return null;
        var to = link.RequiredText("to", "PAGE");
        var column = link.Text("column");
        var text = link.Text("text");
        var with = ReadPairs(link, "with", findings);
        link.Finish();
        return to is null ? null : new LinkDefinition(to, column, text, with);
    }

    private static List<PassDefinition> ReadPairs(MappingReader owner, string key, FindingList findings)
    {
        var pairs = new List<PassDefinition>();
        if (owner.Value(key) is not { } node || MappingReader.Of(node, $"“{key}”", findings) is not { } section) return pairs;
        foreach (var (parameter, value) in section.Named)
            if (MappingReader.AsText(value, parameter.Value, findings) is { } field) pairs.Add(new PassDefinition(parameter, field));
        return pairs;
    }

    private static IdAnswers ReadIds(MappingReader page, FindingList findings)
    {
        if (page.Value("ids") is not { } node || MappingReader.Of(node, "“ids”", findings) is not { } ids) return IdAnswers.Default;
        var missing = ids.Text("missing");
        var malformed = ids.Text("malformed");
        var unknown = ids.Text("unknown");
        ids.Finish();
        if (malformed is not null and not { Value: "400" or "404" })
            findings.AddUnknown(FindingCodes.UnknownWord, malformed, "answer to a malformed ID called", ["400", "404"]);
        if (unknown is not null and not { Value: "404" })
            findings.AddUnknown(FindingCodes.UnknownWord, unknown, "answer to an unknown ID called", ["404"]);
        return new IdAnswers(
            missing is { Value: "400" or "404" } ? null : missing,
            missing is { Value: "400" or "404" } ? int.Parse(missing.Value) : null,
            malformed?.Value == "404" ? 404 : 400);
    }

    /// <summary>An origin as browsers send it (RFC 6454 section 6.2): lower case, no path, no default port.</summary>
    private static bool IsOrigin(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" && uri.GetLeftPart(UriPartial.Authority) == text && uri.UserInfo.Length == 0;

    private static bool IsName(string text) =>
        text.Length is > 0 and <= 64 && char.IsAsciiLetter(text[0]) && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');
}
