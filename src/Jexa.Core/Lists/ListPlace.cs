using Jexa.Core.Values;

namespace Jexa.Core.Lists;

/// <summary>A place in a list: the order columns of one of its rows, and which row it was when it was shown.</summary>
/// <param name="Number">Counts from 1; rows that have come or gone since are not in it. Below 0 if nobody knows it.</param>
public sealed record ListPlace(IReadOnlyList<TypedValue> Values, long Number);
