using Jexa.Core.Formats;

namespace Jexa.Core.Serving;

/// <summary>What a field of a record names or contains: a file in a folder, or bytes.</summary>
/// <param name="Form">The form of the field.</param>
/// <param name="Folder">The folder of a file; null for bytes.</param>
/// <param name="Name">
/// For a file, its name in the record: untrusted. For bytes, a file name to save them under, without an ending.
/// </param>
/// <param name="Content">The bytes; null for a file.</param>
public sealed record MediaFile(FieldForm Form, string? Folder, string Name, byte[]? Content);
