namespace Jexa.Core.Plans;

/// <summary>
/// Several searches for one row each, run as one query. Of each search it takes the first row of its first query that has one.
/// All queries read the same columns. Each row ends with the number of its search, from 0. A search that finds nothing has no
/// row.
/// </summary>
public sealed record CombinedQuery(IReadOnlyList<IReadOnlyList<RecordQuery>> Searches);
