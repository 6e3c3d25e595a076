namespace Jexa.Service;

/// <summary>How to start the service.</summary>
/// <param name="AppFile">The app file's path; findings show it as it is written here.</param>
/// <param name="Port">The pages' port; 0 for any free one.</param>
/// <param name="ConsolePort">The port of console and management API; 0 for any free one.</param>
/// <param name="StateFolder">Jexa's own data; null for the user's state folder.</param>
public sealed record ServiceOptions(string AppFile, int Port, int ConsolePort, string? StateFolder)
{
    public const int DefaultPort = 7440;
}
