namespace Jexa.Core.Edits;

/// <summary>A file that was sent for a field, and waits beside its folder until the record is saved.</summary>
/// <param name="Name">The name that the record will hold; empty if the file was not taken.</param>
/// <param name="Digest">Tells whether the same file was sent again.</param>
/// <param name="Fault">Why it was not taken; null if it was.</param>
public sealed record SentFile(string Name, string Digest, string? Fault);
