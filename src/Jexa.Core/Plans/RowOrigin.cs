namespace Jexa.Core.Plans;

/// <summary>What rows are read from: a table or view by name, or a query of the developer's own.</summary>
/// <param name="Name">The table; for a query, what it is called in traces.</param>
/// <param name="Query">The developer's query; null for a table.</param>
/// <param name="Values">What fills the query's named parameters.</param>
public sealed record RowOrigin(string Name, string? Query, IReadOnlyList<(string Name, Operand Value)> Values)
{
    public static RowOrigin Of(string table) => new(table, null, []);
}
