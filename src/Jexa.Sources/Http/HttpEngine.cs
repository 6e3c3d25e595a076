using System.Collections.Concurrent;
using System.Net;
using Jexa.Core.Endpoints;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>APIs that answer with JSON: <c>{ engine: http, connection: https://gauges.example, endpoints: … }</c>.</summary>
public sealed class HttpEngine : ISourceEngine
{
    public string Name => "http";

    public ISource Open(SourceSettings settings) => new HttpSource(settings);
}
