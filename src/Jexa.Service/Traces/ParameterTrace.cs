namespace Jexa.Service.Traces;

/// <param name="Raw">The decoded text; null if it was absent or could not be decoded.</param>
/// <param name="Value">The typed value, as text.</param>
public sealed record ParameterTrace(string Name, string? Raw, string? Type, string? Value, bool Canonical, string? Fault);
