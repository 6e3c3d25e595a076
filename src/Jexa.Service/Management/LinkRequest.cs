namespace Jexa.Service.Management;

/// <summary>Asks for the address of a page.</summary>
/// <param name="Values">A text for each parameter, as it is in an address before percent-encoding.</param>
public sealed record LinkRequest(string Page, IReadOnlyDictionary<string, string> Values);
