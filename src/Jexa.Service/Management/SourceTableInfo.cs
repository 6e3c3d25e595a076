namespace Jexa.Service.Management;

/// <param name="Kind"><c>table</c> or <c>view</c>.</param>
/// <param name="Key">The columns of its primary key; empty for none.</param>
/// <param name="Columns">The number of its columns.</param>
/// <param name="AboutRows">The approximate number of its rows.</param>
/// <param name="Lists">Whether its rows can be listed, not only read one by one by their key.</param>
/// <param name="Records">The record kinds of the app file that use it.</param>
public sealed record SourceTableInfo(
    string Name,
    string Kind,
    IReadOnlyList<string> Key,
    int Columns,
    long? AboutRows,
    bool Lists,
    IReadOnlyList<string> Records
);
