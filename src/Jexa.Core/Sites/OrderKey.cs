using Jexa.Core.Plans;

namespace Jexa.Core.Sites;

/// <summary>One column of a list's order.</summary>
/// <param name="Ordinal">The cell with its stored value.</param>
public sealed record OrderKey(ColumnRef Column, bool Descending, bool MayBeEmpty, int Ordinal);
