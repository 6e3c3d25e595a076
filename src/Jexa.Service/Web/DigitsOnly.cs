using System.Text;

namespace Jexa.Service.Web;

/// <summary>
/// Decodes a length as digits and nothing else: every other byte becomes a character that no number has. RFC 9110 section 8.6
/// allows only digits, but the server also accepts a sign, and would then disagree with a strict proxy.
/// </summary>
internal sealed class DigitsOnly : Encoding
{
    public override int GetByteCount(char[] chars, int index, int count) => count;

    public override int GetBytes(char[] chars, int charIndex, int charCount, byte[] bytes, int byteIndex) =>
        ASCII.GetBytes(chars, charIndex, charCount, bytes, byteIndex);

    public override int GetCharCount(byte[] bytes, int index, int count) => count;

    public override int GetChars(byte[] bytes, int byteIndex, int byteCount, char[] chars, int charIndex)
    {
        for (var i = 0; i < byteCount; i++)
            chars[charIndex + i] = bytes[byteIndex + i] is >= (byte)'0' and <= (byte)'9' and var digit ? (char)digit : 'x';
        return byteCount;
    }

    public override int GetMaxByteCount(int charCount) => charCount;

    public override int GetMaxCharCount(int byteCount) => byteCount;
}
