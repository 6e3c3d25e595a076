using Jexa.Core.Keys;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>What an address says of a parameter that may be given several times.</summary>
/// <param name="Values">Each once, in the order of the address.</param>
/// <param name="Raw">The text or name at fault; null if nothing is wrong, or it cannot be decoded.</param>
/// <param name="IsCanonical">Each value is spelled as Jexa would, and none is empty or given twice.</param>
internal readonly record struct ManyValues(IReadOnlyList<TypedValue> Values, string? Raw, KeyFault Fault, bool IsCanonical);
