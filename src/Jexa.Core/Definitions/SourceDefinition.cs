namespace Jexa.Core.Definitions;

/// <param name="Connection">As written. <c>${NAME}</c> stands for an environment variable.</param>
/// <param name="Writing">Whether Jexa may change the source: <c>noted</c>, <c>bare</c> or <c>refused</c>.</param>
public sealed record SourceDefinition(Written Name, Written Engine, Written Connection, Written? Writing)
{
    /// <summary>The API's endpoints. Null if the source is not an API.</summary>
    public ApiDefinition? Api { get; init; }

    /// <summary>The connection to a replica for reading.</summary>
    public Written? Replica { get; init; }

    /// <summary>How a proxy before the source shares its sessions.</summary>
    public Written? Pooling { get; init; }
}
