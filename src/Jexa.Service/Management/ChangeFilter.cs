namespace Jexa.Service.Management;

/// <summary>The query parameters of a list of changes. Each narrows it; all must hold.</summary>
/// <param name="Since">Changes since this moment.</param>
/// <param name="Before">Changes with smaller numbers than this one.</param>
/// <param name="Limit">How many at most.</param>
internal sealed record ChangeFilter(
    string? Record,
    string? Id,
    string? Page,
    string? Kind,
    string? State,
    DateTimeOffset? Since,
    long? Before,
    int? Limit
);
