using Jexa.Core.Plans;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// What is read of the records before and behind one in a list: what they are called, their addresses and their places.
/// </summary>
/// <param name="columns">The order columns come behind these.</param>
public sealed class NeighbourPlan(IReadOnlyList<Projection> columns, IReadOnlyList<Join> joins, TextPlan label, LinkPlan link)
{
    /// <summary>The columns read before those of the order.</summary>
    public int Width => columns.Count;

    public TextPlan Label => label;

    public LinkPlan Link => link;

    /// <summary>A query of the list, reading these columns and then those of its order.</summary>
    public RecordQuery Read(RecordQuery query, IReadOnlyList<OrderKey> keys) =>
        query with
        {
            Joins = joins,
            Columns = [.. columns, .. keys.Select(key => query.Columns[key.Ordinal])],
        };
}
