namespace Jexa.Core.Formats;

/// <summary>
/// Where the pictures that a field names are: exactly one of the two, or neither where the field holds a whole URL.
/// </summary>
/// <param name="Folder">The folder, whole.</param>
/// <param name="Base">The URL that names are put behind, ending in a slash.</param>
public sealed record PicturePlace(string? Folder, Uri? Base);
