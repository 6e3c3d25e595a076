using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The record that an address asks for, or the answer where it asks for none.</summary>
internal readonly record struct AskedRecord(TypedValue[] Keys, Answer? Refused);
