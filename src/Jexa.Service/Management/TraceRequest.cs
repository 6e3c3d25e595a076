namespace Jexa.Service.Management;

/// <summary>Asks for the trace of a visit that is only tried.</summary>
/// <param name="Target">A path with its query string, or a whole URL.</param>
/// <param name="Method">GET if left out.</param>
/// <param name="Accept">The Accept header of the visit; that of a browser if left out.</param>
public sealed record TraceRequest(string Target, string? Method = null, string? Accept = null);
