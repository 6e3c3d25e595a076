using Jexa.Core.Plans;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// All rows that a part of a page can show, whatever its address says: those of a list, the records of a record's page, those of
/// a block. A sweep reads them.
/// </summary>
/// <param name="Part">The name of the block; empty for the page itself.</param>
/// <param name="Query">All of the rows, without order.</param>
/// <param name="Arguments">The query's arguments.</param>
/// <param name="Key">The order of the record's key, which tells each row apart.</param>
/// <param name="Columns">The columns that the page shows.</param>
/// <param name="Links">The links that the rows have.</param>
public sealed record RowSet(
    string Part,
    SiteRecord Record,
    RecordQuery Query,
    IReadOnlyList<TypedValue> Arguments,
    IReadOnlyList<OrderKey> Key,
    IReadOnlyList<ViewColumn> Columns,
    IReadOnlyList<LinkPlan> Links
);
