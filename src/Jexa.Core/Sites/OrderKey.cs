using Jexa.Core.Plans;

namespace Jexa.Core.Sites;

/// <summary>One column a list is ordered by.</summary>
/// <param name="Ordinal">Where its stored value stands in a row.</param>
public sealed record OrderKey(ColumnRef Column, bool Descending, bool MayBeEmpty, int Ordinal);
