namespace Jexa.Core.Plans;

/// <summary>
/// Searches for one row each, asked at once: of each search the first row of the first of its queries that has any. All queries
/// read the same columns; a row ends with its search's number, from 0. A search that finds nothing has no row.
/// </summary>
public sealed record CombinedQuery(IReadOnlyList<IReadOnlyList<RecordQuery>> Searches);
