using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The key in an address, or the answer if there is none.</summary>
internal readonly record struct AskedRecord(TypedValue[] Keys, Answer? Refused);
