using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <param name="Rows">How many rows were changed.</param>
/// <param name="Key">The new row's key as it is stored, in the order asked for; empty for other changes.</param>
public readonly record struct WriteResult(int Rows, IReadOnlyList<TypedValue> Key);
