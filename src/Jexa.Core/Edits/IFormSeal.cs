namespace Jexa.Core.Edits;

/// <summary>Seals what a form carries, so that nobody can read or change it; shared by all processes of one service.</summary>
public interface IFormSeal
{
    string Seal(ReadOnlySpan<byte> content);

    /// <summary>What was sealed; null if it was not, or by somebody else.</summary>
    byte[]? Open(string text);
}
