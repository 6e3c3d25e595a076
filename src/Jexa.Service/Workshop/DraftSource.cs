using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Drafts;
using Jexa.Core.Endpoints;
using Jexa.Core.Files;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Sources.Http;

namespace Jexa.Service.Workshop;

/// <summary>
/// A source that a first app file is drafted from: opened, described and sampled. Command line and console use it.
/// </summary>
/// <param name="engine">The engine's word in the app file.</param>
/// <param name="connection">The connection as the app file is to have it, with <c>${NAME}</c> for variables.</param>
/// <param name="folder">The folder of the app file: relative connections start there.</param>
/// <param name="environment">Reads environment variables.</param>
public sealed partial class DraftSource(
    SourceRegistry sources,
    string engine,
    string connection,
    string folder,
    Func<string, string?> environment
)
{
    /// <summary>The engines that a first app file can be drafted from.</summary>
    public static IReadOnlyList<string> Engines { get; } = ["sqlite", "postgresql", "mariadb", "files", "http"];

    /// <summary>For an API without a description: the paths that answer with lists of records.</summary>
    public IReadOnlyList<string> Lists { get; init; } = [];

    /// <summary>For an API: the file or URL of its OpenAPI description. Null to look for it below the base address.</summary>
    public string? Description { get; init; }

    /// <summary>How long the source may take for one answer.</summary>
    public TimeSpan TimeLimit { get; init; } = TimeSpan.FromSeconds(30);

    private SourceSettings? _settings;
    private ISource? _source;
    private ApiDescription? _api;

    /// <summary>How the source is opened.</summary>
    public SourceSettings Settings => _settings ?? throw new InvalidOperationException("The source was not described yet.");

    /// <summary>Opens the source and reads what it has.</summary>
    /// <exception cref="DraftException">It cannot be opened or described.</exception>
    public async Task<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        if (engine != "http" && (Description is not null || Lists.Count > 0))
            throw new DraftException(DraftTrouble.Asked, "A description and lists are for an API.");
        var settings = new SourceSettings(engine, Filled(), connection, folder, TimeLimit);
        _api = engine == "http" ? await ApiAsync(settings, cancellation) : null;
        _settings = _api is null ? settings : settings with { Api = new ApiSettings([], [], false, _api.Endpoints) };
        try
        {
            _source = sources.Open(_settings);
            return await _source.DescribeAsync(cancellation);
        }
        catch (SourceException away)
        {
            throw new DraftException(DraftTrouble.Away, $"The source cannot be described: {away.Message}", away);
        }
    }

    /// <summary>The first rows of a table.</summary>
    /// <exception cref="DraftException">They cannot be read.</exception>
    public async Task<RowSample> RowsAsync(TableSchema table, int most, CancellationToken cancellation)
    {
        try
        {
            return await RowSample.ReadAsync(_source!, table, most, cancellation);
        }
        catch (SourceException away)
        {
            throw new DraftException(DraftTrouble.Away, $"{table.Name} cannot be read: {away.Message}", away);
        }
    }

    /// <summary>Drafts an app file.</summary>
    /// <param name="schema">The tables that get pages.</param>
    /// <param name="title">The app's name; null to make one from the connection.</param>
    public async Task<AppDraft> WriteAsync(SourceSchema schema, string? title, CancellationToken cancellation)
    {
        var samples = await TableSample.ReadAsync(_source!, schema, cancellation);
        var guesses = await RelationGuess.ReadAsync(_source!, schema, samples, cancellation);
        return Drafter.Write(
            new DraftInput(title ?? _api?.Title ?? Title(), engine, connection, schema)
            {
                Samples = samples,
                Guesses = guesses,
                Api = _api,
            }
        );
    }

    private string Filled() =>
        Variables.Fill(
            connection,
            environment,
            value => sources.Quote(engine, value),
            (name, _) => throw new DraftException(DraftTrouble.Asked, $"The environment variable {name} is not set.")
        )!;

    /// <summary>What an API has: from its description, or from what its lists answer.</summary>
    private async Task<ApiDescription> ApiAsync(SourceSettings settings, CancellationToken cancellation)
    {
        try
        {
            if (Lists.FirstOrDefault(list => ApiTemplate.FaultOf(list) is not null || list.Contains('{')) is { } bad)
                throw new DraftException(DraftTrouble.Asked, $"“{bad}” is no path below the base address, such as /gauges.");
            var api =
                Lists.Count > 0
                    ? await ApiSampler.SampleAsync(settings, Lists, cancellation)
                    : ApiDescription.Read(await TextAsync(settings.Connection, cancellation));
            if (Lists.Count == 0 && api.Version is null)
                throw new DraftException(
                    DraftTrouble.Asked,
                    $"{Description ?? settings.ShownAs} is no OpenAPI description (3.0 or 3.1)."
                );
            if (api.Version?.StartsWith("3.", StringComparison.Ordinal) == false)
                throw new DraftException(
                    DraftTrouble.Asked,
                    $"The description is of OpenAPI {api.Version}; 3.0 and 3.1 are read."
                );
            return api.Endpoints.Count > 0
                ? api
                : throw new DraftException(
                    DraftTrouble.Nothing,
                    (
                        "Nothing in it answers with records that can be listed or got by a key. "
                        + $"{string.Join(" ", api.Doubts)}"
                    ).Trim()
                );
        }
        catch (SourceException away)
        {
            throw new DraftException(DraftTrouble.Away, away.Message, away);
        }
    }

    private async Task<byte[]> TextAsync(string address, CancellationToken cancellation)
    {
        if (Description is not null && File.Exists(Description))
            return PlainFile.ReadAllBytes(Description);
        if (Description is not null && !Description.Contains("://", StringComparison.Ordinal))
            throw new DraftException(DraftTrouble.Asked, $"There is no file {Description}.");
        foreach (
            var place in Description is not null
                ? [Description]
                : ApiSampler.UsualPlaces.Select(place => address.TrimEnd('/') + place)
        )
        {
            if (!Uri.TryCreate(place, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
                throw new DraftException(
                    DraftTrouble.Asked,
                    $"{place} is no address; write one such as https://gauges.example/v1."
                );
            if (await ApiSampler.FetchAsync(uri, TimeLimit, cancellation) is { } text)
                return text;
        }

        throw new DraftException(
            DraftTrouble.Asked,
            Description is null
                ? $"There is no description at {string.Join(", ", ApiSampler.UsualPlaces)} below the base address. "
                    + "Name one (--openapi FILE), or a path that answers with records (--list /gauges)."
                : $"There is nothing at {Description}."
        );
    }

    private string Title() =>
        engine is "sqlite" or "files" ? Labels.OfPage(Path.GetFileNameWithoutExtension(connection.TrimEnd('/')))
        : DatabaseName().Match(connection) is { Success: true } named ? Labels.OfPage(named.Groups["name"].Value)
        : "Records";

    /// <summary>The name of the database in a connection string: after the host of a URI, else by its key.</summary>
    [GeneratedRegex(
        """(?:^\w+://[^/?#]+/|(?:^|;)\s*(?:Database|Initial Catalog|Db|dbname)\s*=\s*)(?<name>[\w.-]+)""",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex DatabaseName();
}
