namespace Jexa.Service.Management;

/// <summary>What something in the text means.</summary>
/// <param name="Markdown">Null if there is nothing to say.</param>
/// <param name="Line">The line where it is defined, from 1; null if it is no name, or is not defined in the file.</param>
public sealed record HoverInfo(string? Markdown, int? Line);
