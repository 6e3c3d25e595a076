namespace Jexa.Core.Formats;

/// <summary>Where the files are that a field names: a folder or a URL. Neither if the field holds whole URLs.</summary>
/// <param name="Folder">The path of the folder.</param>
/// <param name="Base">The URL before each name, with a slash at the end.</param>
public sealed record FilePlace(string? Folder, Uri? Base);
