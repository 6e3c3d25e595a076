using Microsoft.AspNetCore.Mvc;

namespace Jexa.Service.Management;

/// <summary>The query parameters of a list of changes. Each narrows it; all must hold.</summary>
/// <param name="Record">Changes of this record kind.</param>
/// <param name="Id">Changes of the record with this ID, as in addresses.</param>
/// <param name="Page">Changes made through this page.</param>
/// <param name="Kind">added, changed or deleted.</param>
/// <param name="State">made, intended or undetermined.</param>
/// <param name="Since">Changes since this moment.</param>
/// <param name="Before">Changes with smaller numbers than this one.</param>
/// <param name="Limit">How many at most.</param>
internal sealed record ChangeFilter(
    [FromQuery(Name = "record")] string? Record,
    [FromQuery(Name = "id")] string? Id,
    [FromQuery(Name = "page")] string? Page,
    [FromQuery(Name = "kind")] string? Kind,
    [FromQuery(Name = "state")] string? State,
    [FromQuery(Name = "since")] DateTimeOffset? Since,
    [FromQuery(Name = "before")] long? Before,
    [FromQuery(Name = "limit")] int? Limit
);
