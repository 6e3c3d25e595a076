using Jexa.Core.Plans;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>What is read of the previous and next record in a list: labels, addresses and places.</summary>
/// <param name="columns">The columns before the order columns.</param>
public sealed class NeighbourPlan(IReadOnlyList<Projection> columns, IReadOnlyList<Join> joins, TextPlan label, LinkPlan link)
{
    /// <summary>The number of columns before the order columns.</summary>
    public int Width => columns.Count;

    /// <summary>The label of the neighbour.</summary>
    public TextPlan Label => label;

    /// <summary>The link to the neighbour.</summary>
    public LinkPlan Link => link;

    /// <summary>A query of the list that reads these columns, then those of its order.</summary>
    public RecordQuery Read(RecordQuery query, IReadOnlyList<OrderKey> keys) =>
        query with
        {
            Joins = joins,
            Columns = [.. columns, .. keys.Select(key => query.Columns[key.Ordinal])],
        };
}
