using Jexa.Core.Values;

namespace Jexa.Core.Proof;

/// <summary>The key of a row that something is wrong with.</summary>
/// <param name="Text">For people, its parts with commas between them.</param>
/// <param name="Values">As they are stored; null if they cannot be sent back to the source.</param>
internal sealed record RowKey(string Text, IReadOnlyList<TypedValue>? Values);
