using Jexa.Core.Schemas;

namespace Jexa.Core.Sources;

/// <summary>What a source said that it holds.</summary>
/// <param name="Queries">The developer's own queries over it, by their text.</param>
public sealed record SourceDescription(SourceSchema Schema, IReadOnlyDictionary<string, QuerySchema> Queries);

/// <summary>
/// Owns the open sources, apart from any site: two sites that name the same connection share one source, and a changed app
/// file reopens nothing.
/// </summary>
public sealed class SourceRegistry(IEnumerable<ISourceEngine> engines) : IAsyncDisposable
{
    private readonly Dictionary<string, ISourceEngine> _engines = engines.ToDictionary(engine => engine.Name);
    private readonly Dictionary<SourceSettings, ISource> _sources = [];
    private readonly Dictionary<ISource, SourceDescription> _remembered = [];
    private readonly Lock _lock = new();

    public IEnumerable<string> EngineNames => _engines.Keys.Order();

    public bool Knows(string engine) => _engines.ContainsKey(engine);

    public bool TakesKeys(string engine) => _engines[engine].TakesKeys;

    public bool TakesReplica(string engine) => _engines[engine].TakesReplica;

    public bool TakesPooling(string engine) => _engines[engine].TakesPooling;

    /// <summary>A value of a variable as it stands within a connection of this engine.</summary>
    public string Quote(string engine, string value) => _engines[engine].Quote(value);

    /// <summary>The source of these settings, opened now or earlier.</summary>
    public ISource Open(SourceSettings settings)
    {
        lock (_lock)
        {
            if (!_sources.TryGetValue(settings, out var source)) _sources[settings] = source = _engines[settings.Engine].Open(settings);
            return source;
        }
    }

    /// <summary>Keeps what a source says of itself, for when it is away.</summary>
    public void Remember(ISource source, SourceDescription description)
    {
        lock (_lock) _remembered[source] = description;
    }

    /// <summary>What the source said of itself when it last answered; null where it never did.</summary>
    public SourceDescription? Remembered(ISource source)
    {
        lock (_lock) return _remembered.GetValueOrDefault(source);
    }

    public async ValueTask DisposeAsync()
    {
        List<ISource> sources;
        lock (_lock)
        {
            sources = [.. _sources.Values];
            _sources.Clear();
            _remembered.Clear();
        }

        foreach (var source in sources) await source.DisposeAsync();
    }
}
