namespace Jexa.Core.Definitions;

/// <summary>How an API is called, as it is written.</summary>
/// <param name="Headers">Their names and values, in which variables may stand.</param>
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
