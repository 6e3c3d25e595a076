namespace Jexa.Service.Management;

/// <summary>The app file as it is now.</summary>
/// <param name="Text">Null if it cannot be read.</param>
/// <param name="Version">Tells this text from all others. Changes name it, so that none is made to another text.</param>
public sealed record AppFileInfo(string File, string? Text, string? Version);
