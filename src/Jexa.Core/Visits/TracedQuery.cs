using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>One query that a visit ran.</summary>
/// <param name="Rows">The first rows, long values cut.</param>
/// <param name="RowCount">The number of all rows.</param>
/// <param name="Ticks">The duration, in the trace's clock.</param>
public readonly record struct TracedQuery(
    IPreparedQuery Query,
    IReadOnlyList<TypedValue> Arguments,
    RowBlock? Rows,
    int RowCount,
    long Ticks
)
{
    /// <summary>What the source said beside the rows.</summary>
    public string? Remark { get; init; }
}
