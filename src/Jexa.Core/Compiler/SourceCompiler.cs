using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;

namespace Jexa.Core.Compiler;

/// <summary>
/// Opens the sources of an app file and reads what they contain, all at the same time, so that none waits for another. If a
/// source does not answer, its last description is used.
/// </summary>
internal sealed class SourceCompiler(SourceRegistry sources, Func<string, string?> environment, AppDefinition definition)
{
    public async Task<IReadOnlyList<SiteSource>> CompileAsync(FindingList findings, CancellationToken cancellation)
    {
        var lists = definition.Sources.Select(_ => new FindingList()).ToList();
        var found = await Task.WhenAll(definition.Sources.Select((source, i) => CompileAsync(source, lists[i], cancellation)));
        foreach (var list in lists)
            findings.Add(list);
        return found;
    }

    private async Task<SiteSource> CompileAsync(SourceDefinition source, FindingList findings, CancellationToken cancellation)
    {
        var (name, shown) = (source.Name.Value, source.Connection.Value);
        ISource? opened = null;
        try
        {
            if (Settings(source, findings) is not { } settings)
                return new SiteSource(
                    name,
                    source.Engine.Value,
                    shown,
                    null,
                    null,
                    new SourceAbsence("The app file does not say well how to open it; check says more.", true)
                );
            opened = sources.Open(settings);
            var description = await DescribeAsync(name, opened, cancellation);
            sources.Remember(opened, description);
            Note(source, description, findings);
            return new SiteSource(name, source.Engine.Value, shown, opened, description, null);
        }
        catch (SourceException away)
        {
            return Away(source, opened, away, findings);
        }
    }

    /// <summary>A source that did not answer: as it was when it last answered, if that is known.</summary>
    private SiteSource Away(SourceDefinition source, ISource? opened, SourceException away, FindingList findings)
    {
        var (name, shown) = (source.Name.Value, source.Connection.Value);
        var absence = new SourceAbsence(away.Message, away.IsSettled || away.IsFinding || opened is null);
        if (
            opened is not null
            && sources.Remembered(opened) is { } known
            && Queries(name).All(query => known.Queries.ContainsKey(query))
        )
        {
            findings.Add(
                FindingCodes.SourceRemembered,
                source.Connection.At,
                $"The source “{name}” cannot be reached: {away.Message} Its tables are taken to be as they were when it "
                    + "last answered.",
                "Bring it back; it is asked again and again.",
                found: shown
            );
            Note(source, known, findings);
            return new SiteSource(name, source.Engine.Value, shown, opened, known, absence);
        }

        findings.Add(
            FindingCodes.SourceAway,
            source.Connection.At,
            $"The source “{name}” cannot be reached: {away.Message}",
            "Check the connection; a relative path starts from the app file's folder.",
            found: shown
        );
        return new SiteSource(name, source.Engine.Value, shown, opened, null, absence);
    }

    private async Task<SourceDescription> DescribeAsync(string name, ISource opened, CancellationToken cancellation)
    {
        var schema = await opened.DescribeAsync(cancellation);
        var queries = new Dictionary<string, QuerySchema>();
        foreach (var query in Queries(name))
            queries[query] = await opened.DescribeQueryAsync(query, cancellation);
        return new SourceDescription(schema, queries);
    }

    private IEnumerable<string> Queries(string source) =>
        definition
            .Records.Where(record => record.Query is not null && record.Source.Value == source)
            .Select(record => record.Query!.Value);

    private static void Note(SourceDefinition source, SourceDescription description, FindingList findings)
    {
        foreach (var note in description.Schema.Notes)
            findings.Add(
                note.IsFault ? FindingCodes.SourceFault : FindingCodes.SourceDoubt,
                source.Connection.At,
                note.Sentence,
                note.Remedy,
                found: source.Connection.Value
            );
    }

    /// <summary>The settings of a source; null, and reported, if the app file is wrong.</summary>
    private SourceSettings? Settings(SourceDefinition source, FindingList findings)
    {
        var engine = source.Engine.Value;
        if (!sources.Knows(engine))
        {
            findings.AddUnknown(FindingCodes.UnknownEngine, source.Engine, "engine", sources.EngineNames);
            return null;
        }

        if (FillIn(source.Connection, engine, findings) is not { } connection)
            return null;
        if (
            !Suits(source.Replica, sources.TakesReplica(engine), "replica", engine, findings)
            | !Suits(source.Pooling, sources.TakesPooling(engine), "pooling", engine, findings)
        )
            return null;
        string? replica = null;
        if (source.Replica is { } copy && (replica = FillIn(copy, engine, findings)) is null)
            return null;
        ApiSettings? api = null;
        if (source.Api is { } said && (api = ApiOf(source, said, findings)) is null)
            return null;
        return new SourceSettings(engine, connection, source.Connection.Value, definition.Folder, SourceSettings.DefaultTimeLimit)
        {
            Writing = source.Writing?.Value switch
            {
                "bare" => SourceWriting.Bare,
                "refused" => SourceWriting.Refused,
                _ => SourceWriting.Noted,
            },
            Api = api,
            Replica = replica,
            PoolsTransactions = source.Pooling?.Value == "transaction",
            DeclaredKeys = sources.TakesKeys(engine) ? KeysOf(source) : "",
        };
    }

    /// <summary>The keys that the app file declares, one table a line.</summary>
    private string KeysOf(SourceDefinition source) =>
        string.Join(
            '\n',
            definition
                .Records.Where(record =>
                    record.Source.Value == source.Name.Value && record.Table is not null && record.Key.Count > 0
                )
                .Select(record => $"{record.Table}: {string.Join(", ", record.Key)}")
                .Distinct()
                .Order(StringComparer.Ordinal)
        );

    private ApiSettings? ApiOf(SourceDefinition source, ApiDefinition said, FindingList findings)
    {
        var engine = source.Engine.Value;
        List<(string Name, string Value)?> headers = [.. said.Headers.Select(pair => Filled(pair.Name, pair.Value))],
            parameters = [.. said.Parameters.Select(pair => Filled(pair.Name, pair.Value))];
        if (headers.Contains(null) || parameters.Contains(null) || !TryProxy(said.Proxy, source, engine, findings, out var proxy))
            return null;
        return new ApiSettings(
            [.. headers.OfType<(string, string)>()],
            [.. parameters.OfType<(string, string)>()],
            said.LinkLocal,
            said.Endpoints
        )
        {
            Proxy = proxy,
            SecretFields = definition
                .Records.Where(record => record.Source.Value == source.Name.Value)
                .SelectMany(record => record.Fields)
                .Where(field => field.Secret)
                .Select(field => field.Name.Value)
                .ToHashSet(),
            Secrets =
            [
                .. new[] { source.Connection }
                    .Concat(said.Headers.Concat(said.Parameters).Select(pair => pair.Value))
                    .SelectMany(VariablesIn)
                    .Distinct(),
            ],
        };

        (string Name, string Value)? Filled(Written name, Written value) =>
            FillIn(value, engine, findings) is { } filled ? (name.Value, filled) : null;
    }

    /// <summary>The proxy of an API; false, and reported, if it is wrong.</summary>
    private bool TryProxy(Written? said, SourceDefinition source, string engine, FindingList findings, out Uri? proxy)
    {
        proxy = null;
        if (said is null)
            return true;
        var text = said.Value;
        if (text == "environment")
        {
            var names = source.Connection.Value.StartsWith("https:", StringComparison.OrdinalIgnoreCase)
                ? new[] { "https_proxy", "HTTPS_PROXY" }
                : ["http_proxy"];
            text = names.Select(environment).FirstOrDefault(value => !string.IsNullOrEmpty(value));
            if (text is null)
                return true;
        }
        else if ((text = FillIn(said, engine, findings)) is null)
        {
            return false;
        }

        if (Uri.TryCreate(text, UriKind.Absolute, out proxy) && proxy.Scheme is "http" or "https" or "socks5")
            return true;
        findings.Add(
            FindingCodes.UnknownWord,
            said.At,
            $"“{said}” is no proxy.",
            "Write its URL, such as http://proxy.example:3128, or environment.",
            found: said.Value,
            expected: "a URL, or environment"
        );
        return false;
    }

    /// <summary>The values of the variables that stand in a text.</summary>
    private List<string> VariablesIn(Written text)
    {
        var values = new List<string>();
        Variables.Fill(
            text.Value,
            name =>
            {
                var value = environment(name);
                if (!string.IsNullOrEmpty(value))
                    values.Add(value);
                return value ?? "";
            },
            value => value,
            (_, _) => { }
        );
        return values;
    }

    /// <summary>Whether a key that only some engines have is absent, or valid for this engine.</summary>
    private static bool Suits(Written? said, bool isTaken, string key, string engine, FindingList findings)
    {
        if (said is null || isTaken)
            return true;
        findings.Add(
            FindingCodes.KeyOfOtherPageKind,
            said.At,
            $"A source of the engine {engine} has no {key}.",
            $"Remove {key}.",
            found: key
        );
        return false;
    }

    /// <summary>
    /// Fills <c>${NAME}</c> from the environment; null, and reported, if one is not set. Findings never contain the value.
    /// </summary>
    private string? FillIn(Written text, string engine, FindingList findings) =>
        Variables.Fill(
            text.Value,
            environment,
            value => sources.Quote(engine, value),
            (name, at) =>
                findings.Add(
                    FindingCodes.VariableNotSet,
                    text.Of(at),
                    $"The environment variable {name} is not set.",
                    $"Set {name} before starting Jexa.",
                    found: $"${{{name}}}",
                    expected: "a variable that is set"
                )
        );
}
