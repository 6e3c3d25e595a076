namespace Jexa.Core.Definitions;

/// <summary>How an API is called, as the app file says it.</summary>
/// <param name="Headers">Names and values of headers. Values may contain variables.</param>
public sealed record ApiDefinition(
    IReadOnlyList<(Written Name, Written Value)> Headers,
    IReadOnlyList<(Written Name, Written Value)> Parameters,
    bool LinkLocal,
    IReadOnlyList<Endpoints.ApiEndpoint> Endpoints
)
{
    /// <summary>The URL of the proxy that the API is called through, or <c>environment</c>; null for none.</summary>
    public Written? Proxy { get; init; }
}
