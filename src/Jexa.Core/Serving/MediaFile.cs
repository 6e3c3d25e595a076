namespace Jexa.Core.Serving;

/// <summary>What a field of a record names or holds: a picture in a folder, or bytes.</summary>
/// <param name="Folder">The folder of a picture; null for bytes.</param>
/// <param name="Name">A picture's name as the record says it: untrusted. For bytes, a name for the file they are saved as,
/// without an ending.</param>
/// <param name="Content">The bytes; null for a picture.</param>
public sealed record MediaFile(string? Folder, string Name, byte[]? Content);
