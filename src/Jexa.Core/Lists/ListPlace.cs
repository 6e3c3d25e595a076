using Jexa.Core.Values;

namespace Jexa.Core.Lists;

/// <summary>A place in a list: the order columns of a row, and its number when it was shown.</summary>
/// <param name="Number">From 1, as it was when the row was shown. Below 0 if it is not known.</param>
public sealed record ListPlace(IReadOnlyList<TypedValue> Values, long Number);
