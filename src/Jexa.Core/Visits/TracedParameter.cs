using Jexa.Core.Keys;

namespace Jexa.Core.Visits;

/// <summary>A parameter as it was read.</summary>
/// <param name="Raw">The decoded text; null if it was absent or could not be decoded.</param>
public readonly record struct TracedParameter(string Name, string? Raw, KeyReading Reading);
