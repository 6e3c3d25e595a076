namespace Jexa.Service.Management;

/// <summary>The app file as it is now.</summary>
/// <param name="Text">Null if it cannot be read.</param>
public sealed record AppFileInfo(string File, string? Text);
