namespace Jexa.Service.Management;

/// <summary>Where a first app file would be saved.</summary>
/// <param name="Databases">Files in the folder that are SQLite databases by their names.</param>
public sealed record StartPlaceInfo(string Folder, IReadOnlyList<string> Databases);
