namespace Jexa.Service.Workshop;

/// <summary>An earlier version of the app file.</summary>
/// <param name="Version">SHA-256 of its text in hexadecimal digits.</param>
/// <param name="At">When it was first seen.</param>
public sealed record FileVersion(string Version, DateTimeOffset At);
