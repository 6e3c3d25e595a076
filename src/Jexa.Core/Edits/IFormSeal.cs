namespace Jexa.Core.Edits;

/// <summary>
/// Encrypts and signs what a form carries, so that nobody can read or change it. All processes of one service share the secret.
/// </summary>
public interface IFormSeal
{
    /// <summary>Seals a content, so that it can be given to a visitor and read back unchanged or not at all.</summary>
    string Seal(ReadOnlySpan<byte> content);

    /// <summary>The sealed content; null if the text was not sealed by this service.</summary>
    byte[]? Open(string text);
}
