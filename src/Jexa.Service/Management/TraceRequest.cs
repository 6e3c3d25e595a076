namespace Jexa.Service.Management;

/// <summary>Asks what a visit to a target would come to.</summary>
/// <param name="Target">A path with its query string, or a whole URL.</param>
/// <param name="Method">GET where left out.</param>
/// <param name="Accept">The Accept header of the visit; what a browser asks for where left out.</param>
public sealed record TraceRequest(string Target, string? Method = null, string? Accept = null);
