namespace Jexa.Service.Management;

/// <summary>Named changes of the app file. All of them are made, or none.</summary>
/// <param name="Save">Whether to save the file; otherwise only what would become of it is told.</param>
/// <param name="Version">The version that they are for, as <c>/api/app-file</c> tells it. Null for the one that is there.</param>
public sealed record ChangeFileRequest(IReadOnlyList<NamedChangeRequest> Changes, bool Save = false, string? Version = null);
