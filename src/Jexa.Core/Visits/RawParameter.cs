using Jexa.Core.Keys;

namespace Jexa.Core.Visits;

/// <summary>A text from an address by its name: absent, present, or unusable.</summary>
/// <param name="Text">Null if it is absent or unusable.</param>
/// <param name="Fault">Why it is unusable.</param>
internal readonly record struct RawParameter(string? Text, KeyFault Fault);
