namespace Jexa.Service.Management;

/// <summary>The first rows of a table.</summary>
/// <param name="Rows">The rows; an empty value is null, and one that looks like a secret is veiled.</param>
public sealed record RowsInfo(IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string?>> Rows);
