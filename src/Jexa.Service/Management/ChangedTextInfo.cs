namespace Jexa.Service.Management;

/// <summary>A Markdown file that a change of the app file changes too.</summary>
/// <param name="File">Its name in the app file.</param>
/// <param name="Lines">The lines that differ.</param>
public sealed record ChangedTextInfo(string File, IReadOnlyList<ChangedLineInfo> Lines);
