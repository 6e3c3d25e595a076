namespace Jexa.Core.Definitions;

/// <summary>
/// Reads an app file into its definition, and reports all mistakes that the text alone shows. Mistakes that need the source are
/// found by the compiler.
/// </summary>
public static class AppFileReader
{
    /// <summary>The largest app file that is read, in bytes.</summary>
    public const int MaxBytes = AppFileTree.MaxBytes;

    /// <summary>The definition, as far as it could be read; null if nothing could.</summary>
    /// <param name="file">The file's name for findings. Relative connections start from its folder.</param>
    public static AppDefinition? Read(string file, ReadOnlySpan<byte> bytes, FindingList findings)
    {
        if (AppFileTree.Read(file, bytes, findings) is not { } tree)
            return null;
        if (MappingReader.Of(tree, "the app file", findings) is not { } app)
            return null;
        var title = app.RequiredText("app", "NAME OF THE APP") ?? new Written("", app.At);
        var home = app.Text("home");
        var notFound = app.Text("not_found");
        var zone = app.Text("zone");
        var locale = app.Text("locale");
        var frame = ReadFrame(app, findings);
        var origins = app.Texts("origins");
        var writers = app.Texts("writers");
        foreach (var origin in origins.Concat(writers).Where(origin => !IsOrigin(origin.Value)))
            findings.Add(
                FindingCodes.UnknownWord,
                origin.At,
                $"“{origin}” is not an origin.",
                "Write scheme, host and port, and no path.",
                found: origin.Value,
                expected: "such as https://app.example or http://localhost:5173"
            );
        var sources = Section(app, "sources", "register: { engine: sqlite, connection: register.db }", findings, ReadSource);
        var records = Section(app, "records", "bridge: { from: register.bridge }", findings, RecordReader.Read);
        var pages = Section(app, "pages", "bridges: { path: /bridges, list: bridge }", findings, PageReader.Read);
        pages = FormPages.Added(pages, findings);
        var settings = FindingSetting.ReadAll(app, findings);
        app.Finish();
        return new AppDefinition(
            file,
            title,
            home,
            notFound,
            zone,
            locale,
            frame,
            origins,
            writers,
            sources,
            records,
            pages,
            Lines(app.Value("pages"))
        )
        {
            RecordLines = Lines(app.Value("records")),
            Settings = settings,
        };
    }

    private static List<NamedLines> Lines(Node? section) =>
        [
            .. ((section as MappingNode)?.Entries ?? [])
                .Where(entry => entry.Key is ScalarNode)
                .Select(entry => new NamedLines(((ScalarNode)entry.Key).Text, entry.Value.LastLine)),
        ];

    private static List<T> Section<T>(
        MappingReader app,
        string key,
        string example,
        FindingList findings,
        Func<Written, MappingReader, FindingList, T?> read
    )
        where T : class
    {
        if (app.Value(key) is not { } node)
        {
            findings.Add(
                FindingCodes.MissingKey,
                app.At,
                $"The app file lacks the key “{key}”.",
                $"Add {key}: and below it, indented, {example}",
                expected: key
            );
            return [];
        }

        var one = key[..^1];
        var items = new List<T>();
        if (MappingReader.Of(node, $"“{key}”", findings) is not { } section)
            return items;
        foreach (var (name, value) in section.Named)
        {
            if (!IsName(name.Value))
            {
                findings.Add(
                    FindingCodes.BadName,
                    name.At,
                    $"“{name}” cannot name a {one}.",
                    "Use letters, digits, hyphens and _, beginning with a letter.",
                    found: name.Value,
                    expected: "a name"
                );
                continue;
            }

            if (MappingReader.Of(value, $"the {one} “{name}”", findings) is not { } reader)
                continue;
            if (read(name, reader, findings) is { } item)
                items.Add(item);
            reader.Finish();
        }

        return items;
    }

    private static readonly string[] WritingWords = ["noted", "bare", "refused"];

    private static SourceDefinition? ReadSource(Written name, MappingReader source, FindingList findings)
    {
        var engine = source.RequiredText("engine", "sqlite");
        var connection = source.RequiredText("connection", "register.db");
        var writing = source.Text("writing");
        if (writing is not null && !WritingWords.Contains(writing.Value))
            findings.AddUnknown(FindingCodes.UnknownWord, writing, "way of writing called", WritingWords);
        var pooling = source.Text("pooling");
        if (pooling is not (null or { Value: "session" or "transaction" }))
            findings.AddUnknown(FindingCodes.UnknownWord, pooling, "way of pooling called", ["session", "transaction"]);
        var replica = source.Text("replica");
        var api = ApiReader.Read(source, engine?.Value == "http", findings);
        return engine is null || connection is null
            ? null
            : new SourceDefinition(name, engine, connection, writing)
            {
                Api = api,
                Replica = replica,
                Pooling = pooling,
            };
    }

    private static FrameDefinition ReadFrame(MappingReader app, FindingList findings)
    {
        if (app.Value("frame") is not { } node || MappingReader.Of(node, "“frame”", findings) is not { } reader)
            return FrameDefinition.None;
        var frame = new FrameDefinition(
            reader.Text("header"),
            reader.Text("footer"),
            reader.Text("logo"),
            reader.Text("style"),
            reader.Text("page")
        )
        {
            Theme = Word(reader, "theme", "theme called", FrameDefinition.Themes, findings),
            Rows = Word(reader, "rows", "room for rows called", FrameDefinition.Densities, findings),
            TellsLoading = Word(reader, "loading", "sign of loading called", ["shown", "hidden"], findings) == "shown",
            Prefetches = Word(reader, "prefetch", "way to prefetch called", ["pointed", "none"], findings) == "pointed",
        };
        reader.Finish();
        return frame;
    }

    /// <summary>One of a few words; the first if the key is absent or wrong.</summary>
    private static string Word(MappingReader reader, string key, string what, IReadOnlyList<string> words, FindingList findings)
    {
        if (reader.Text(key) is not { } word)
            return words[0];
        if (words.Contains(word.Value))
            return word.Value;
        findings.AddUnknown(FindingCodes.UnknownWord, word, what, words);
        return words[0];
    }

    /// <summary>An origin as browsers send it (RFC 6454 section 6.2): lower case, no path, no default port.</summary>
    private static bool IsOrigin(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri)
        && uri.Scheme is "http" or "https"
        && uri.GetLeftPart(UriPartial.Authority) == text
        && uri.UserInfo.Length == 0;

    internal static bool IsName(string text) =>
        text.Length is > 0 and <= 64
        && char.IsAsciiLetter(text[0])
        && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');
}
