using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <param name="Rows">How many rows were changed.</param>
/// <param name="Key">The key of the new row as it is stored, in the requested order; empty for other changes.</param>
public readonly record struct WriteResult(int Rows, IReadOnlyList<TypedValue> Key);
