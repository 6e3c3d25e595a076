namespace Jexa.Core.Definitions;

/// <param name="Connection">As written; <c>${NAME}</c> in it stands for an environment variable.</param>
/// <param name="Writing">Whether Jexa may change what the source holds: <c>noted</c>, <c>bare</c> or <c>refused</c>.</param>
public sealed record SourceDefinition(Written Name, Written Engine, Written Connection, Written? Writing)
{
    public ApiDefinition? Api { get; init; }

    /// <summary>The connection to a copy that is read instead.</summary>
    public Written? Replica { get; init; }

    /// <summary>How a proxy before the source shares its sessions out.</summary>
    public Written? Pooling { get; init; }
}
