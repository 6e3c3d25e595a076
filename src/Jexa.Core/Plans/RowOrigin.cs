namespace Jexa.Core.Plans;

/// <summary>Where rows are read from: a table or view, or a developer's own query.</summary>
/// <param name="Name">The table; for a query, its name in traces.</param>
/// <param name="Query">The developer's query; null for a table.</param>
/// <param name="Values">The values of the query's named parameters.</param>
public sealed record RowOrigin(string Name, string? Query, IReadOnlyList<(string Name, Operand Value)> Values)
{
    /// <summary>A table or view.</summary>
    public static RowOrigin Of(string table) => new(table, null, []);
}
