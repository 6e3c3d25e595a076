namespace Jexa.Service.Management;

/// <summary>The first rows of a table or query.</summary>
/// <param name="Rows">The rows; an empty value is null, and one that looks like a secret is veiled.</param>
/// <param name="Plan">How the source would read them; null if they are of a table as it is.</param>
public sealed record RowsInfo(IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string?>> Rows, QueryPlanInfo? Plan);
