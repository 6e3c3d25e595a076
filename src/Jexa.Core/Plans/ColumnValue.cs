using Jexa.Core.Values;

namespace Jexa.Core.Plans;

/// <summary>A value for a column.</summary>
/// <param name="Secret">It is never traced or logged.</param>
public readonly record struct ColumnValue(string Column, TypedValue Value, bool Secret = false);
