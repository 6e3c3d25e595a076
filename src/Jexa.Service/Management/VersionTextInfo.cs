namespace Jexa.Service.Management;

/// <summary>An earlier version of the app file.</summary>
/// <param name="Lines">The lines in which the working copy would differ if the version was brought back.</param>
public sealed record VersionTextInfo(string Version, string Text, IReadOnlyList<ChangedLineInfo> Lines);
