namespace Jexa.Service.Management;

/// <summary>An earlier version of the app file.</summary>
/// <param name="At">When it was first seen.</param>
/// <param name="Present">Whether the file is this version now.</param>
public sealed record FileVersionInfo(string Version, DateTimeOffset At, bool Present);
