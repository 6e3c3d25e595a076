using Jexa.Core.Keys;

namespace Jexa.Core.Visits;

/// <summary>One text taken out of an address by name: absent, there, or unusable.</summary>
/// <param name="Text">Null where it is absent or unusable.</param>
/// <param name="Fault">Why it is unusable.</param>
internal readonly record struct RawParameter(string? Text, KeyFault Fault);
