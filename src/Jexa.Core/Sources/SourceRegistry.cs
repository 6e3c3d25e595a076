namespace Jexa.Core.Sources;

/// <summary>
/// Owns the open sources. Sites with the same connection share one source, and a changed app file reopens nothing. A source that
/// no site uses any more is closed after the visits that use it have ended.
/// </summary>
public sealed class SourceRegistry(IEnumerable<ISourceEngine> engines) : IAsyncDisposable
{
    private readonly Dictionary<string, ISourceEngine> _engines = engines.ToDictionary(engine => engine.Name);
    private readonly Dictionary<SourceSettings, ISource> _sources = [];
    private readonly Dictionary<ISource, SourceDescription> _remembered = [];
    private readonly HashSet<ISource> _retired = [];
    private readonly Lock _lock = new();

    /// <summary>The names of the engines, in order.</summary>
    public IEnumerable<string> EngineNames => _engines.Keys.Order();

    /// <summary>Whether there is an engine of this name.</summary>
    public bool Knows(string engine) => _engines.ContainsKey(engine);

    /// <summary>Whether sources of this engine can have keys (headers and query parameters for each call).</summary>
    public bool TakesKeys(string engine) => _engines[engine].TakesKeys;

    /// <summary>Whether sources of this engine can have a replica to read from.</summary>
    public bool TakesReplica(string engine) => _engines[engine].TakesReplica;

    /// <summary>Whether sources of this engine can be told about a connection pooler.</summary>
    public bool TakesPooling(string engine) => _engines[engine].TakesPooling;

    /// <summary>Quotes the value of a variable for a connection string of this engine.</summary>
    public string Quote(string engine, string value) => _engines[engine].Quote(value);

    /// <summary>The source with these settings. It is opened if it is not open yet.</summary>
    public ISource Open(SourceSettings settings)
    {
        lock (_lock)
        {
            if (!_sources.TryGetValue(settings, out var source))
                _sources[settings] = source = _engines[settings.Engine].Open(settings);
            return source;
        }
    }

    /// <summary>Keeps the description of a source for the time when it is away.</summary>
    public void Remember(ISource source, SourceDescription description)
    {
        lock (_lock)
            _remembered[source] = description;
    }

    /// <summary>The last description that the source gave; null if it never gave one.</summary>
    public SourceDescription? Remembered(ISource source)
    {
        lock (_lock)
            return _remembered.GetValueOrDefault(source);
    }

    /// <summary>Closes the sources that the new site does not use, after a delay.</summary>
    /// <param name="after">Longer than any visit can take.</param>
    public async Task RetireAsync(IReadOnlyCollection<ISource> used, TimeSpan after, TimeProvider clock)
    {
        List<ISource> old;
        lock (_lock)
        {
            var gone = _sources.Where(entry => !used.Contains(entry.Value)).ToList();
            old = [.. gone.Select(entry => entry.Value)];
            foreach (var (settings, source) in gone)
            {
                _sources.Remove(settings);
                _remembered.Remove(source);
                _retired.Add(source);
            }
        }

        if (old.Count == 0)
            return;
        await Task.Delay(after, clock);
        foreach (var source in old)
        {
            bool isOurs;
            lock (_lock)
                isOurs = _retired.Remove(source);
            if (isOurs)
                await source.DisposeAsync();
        }
    }

    /// <summary>Closes all sources.</summary>
    public async ValueTask DisposeAsync()
    {
        List<ISource> sources;
        lock (_lock)
        {
            sources = [.. _sources.Values, .. _retired];
            _sources.Clear();
            _retired.Clear();
            _remembered.Clear();
        }

        foreach (var source in sources)
            await source.DisposeAsync();
    }
}
