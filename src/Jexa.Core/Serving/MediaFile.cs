namespace Jexa.Core.Serving;

/// <summary>What a field of a record names or contains: a picture in a folder, or bytes.</summary>
/// <param name="Folder">The folder of a picture; null for bytes.</param>
/// <param name="Name">
/// For a picture, its name in the record: untrusted. For bytes, a file name to save them under, without an ending.
/// </param>
/// <param name="Content">The bytes; null for a picture.</param>
public sealed record MediaFile(string? Folder, string Name, byte[]? Content);
