using Jexa.Core.Sources;

namespace Jexa.Sources.Http;

/// <summary>APIs that answer with JSON: <c>{ engine: http, connection: https://gauges.example, endpoints: … }</c>.</summary>
public sealed class HttpEngine : ISourceEngine
{
    public string Name => "http";

    public ISource Open(SourceSettings settings) => new HttpSource(settings);
}
