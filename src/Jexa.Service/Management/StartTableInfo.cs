namespace Jexa.Service.Management;

/// <summary>A table or view of a source.</summary>
/// <param name="Kind"><c>table</c> or <c>view</c>.</param>
/// <param name="AboutRows">The approximate number of its rows; null if the source cannot tell at once.</param>
public sealed record StartTableInfo(string Name, string Kind, long? AboutRows, IReadOnlyList<TableColumnInfo> Columns);
