namespace Jexa.Service.Management;

/// <summary>An address of a page that leads to a record at this moment.</summary>
/// <param name="Address">Null if there is none, or it could not be found.</param>
/// <param name="Ids">The text of each parameter, in their order.</param>
/// <param name="Why">Why there is no address.</param>
/// <param name="Calls">How a program calls it; null if there is no address.</param>
public sealed record SampleInfo(
    string Page,
    string? Address,
    string? Url,
    IReadOnlyList<string> Ids,
    string? Why,
    CallsInfo? Calls
);
