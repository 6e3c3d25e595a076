namespace Jexa.Service.Management;

/// <param name="Kind"><c>table</c> or <c>view</c>.</param>
/// <param name="Key">The columns of its primary key; empty if it has none.</param>
/// <param name="Columns">How many columns it has.</param>
/// <param name="AboutRows">How many rows it has, as near as the source can tell at once.</param>
/// <param name="Lists">Whether its rows can be read one after the other, not only each by its key.</param>
/// <param name="Records">The records of the app file that are read from it.</param>
public sealed record SourceTableInfo(
    string Name,
    string Kind,
    IReadOnlyList<string> Key,
    int Columns,
    long? AboutRows,
    bool Lists,
    IReadOnlyList<string> Records
);
