using System.Buffers.Text;
using System.Security.Cryptography;
using Jexa.Core.Edits;
using Microsoft.AspNetCore.DataProtection;

namespace Jexa.Service.State;

/// <summary>
/// Seals forms and messages with keys that all processes of a state folder share, and that are renewed automatically.
/// </summary>
public sealed class FormSeal(IDataProtectionProvider provider) : IFormSeal
{
    private const int Longest = 512 * 1024;

    private readonly IDataProtector _forms = provider.CreateProtector("Jexa.Forms.v1");
    private readonly IDataProtector _said = provider.CreateProtector("Jexa.Said.v1");

    /// <param name="folder">The folder of the keys, readable by their owner only.</param>
    public static FormSeal In(DirectoryInfo folder) =>
        new(DataProtectionProvider.Create(folder, builder => builder.SetApplicationName("jexa")));

    public string Seal(ReadOnlySpan<byte> content) => Base64Url.EncodeToString(_forms.Protect(content.ToArray()));

    public byte[]? Open(string text) => Open(_forms, text);

    /// <summary>Seals the message that a page shows once.</summary>
    public string SealSaid(byte[] content) => Base64Url.EncodeToString(_said.Protect(content));

    public byte[]? OpenSaid(string text) => Open(_said, text);

    private static byte[]? Open(IDataProtector protector, string text)
    {
        if (text.Length is 0 or > Longest)
            return null;
        try
        {
            return protector.Unprotect(Base64Url.DecodeFromChars(text));
        }
        catch (Exception other) when (other is CryptographicException or FormatException)
        {
            return null;
        }
    }
}
