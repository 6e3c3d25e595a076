using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Unicode;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>
/// The only way for text into HTML, in element content and in quoted attributes: encoded. Letters of all scripts stay as they
/// are.
/// </summary>
internal static class HtmlText
{
    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    private static readonly SearchValues<byte> Plain = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 .,;:/?!()[]{}-_=%#*@|~^$\n"u8
    );

    /// <summary>
    /// Bytes that need a closer look: markup, control characters, and the first bytes of C1 controls and noncharacters.
    /// </summary>
    private static readonly SearchValues<byte> Special = SearchValues.Create([
        .. "&<>\"'`+"u8,
        .. Enumerable.Range(0, 32).Where(b => b is not ('\t' or '\n')).Select(b => (byte)b),
        0x7f,
        0xc2,
        0xef,
        .. Enumerable.Range(0xf0, 16).Select(b => (byte)b),
    ]);

    public static void AppendEncoded(this Utf8Buffer into, ReadOnlySpan<byte> utf8)
    {
        if (!utf8.ContainsAnyExcept(Plain))
        {
            into.Append(utf8);
            return;
        }

        // Letters of other scripts, no special characters of HTML, and no byte that a forbidden character could begin with.
        if (!utf8.ContainsAny(Special) && Utf8.IsValid(utf8))
        {
            into.Append(utf8);
            return;
        }

        while (!utf8.IsEmpty)
        {
            var good = LengthOfGood(utf8);
            Encode(utf8[..good], into);
            utf8 = utf8[good..];
            if (utf8.IsEmpty)
                return;

            // Characters that HTML cannot contain, and invalid UTF-8, become the replacement character.
            into.Append("\uFFFD"u8);
            Rune.DecodeFromUtf8(utf8, out _, out var bad);
            utf8 = utf8[bad..];
        }
    }

    public static void AppendEncoded(this Utf8Buffer into, string text) => into.AppendEncoded(Encoding.UTF8.GetBytes(text));

    private static void Encode(ReadOnlySpan<byte> utf8, Utf8Buffer into)
    {
        while (!utf8.IsEmpty)
        {
            Encoder.EncodeUtf8(utf8, into.Room(Math.Max(64, utf8.Length * 2)), out var read, out var written);
            into.Advance(written);
            utf8 = utf8[read..];
        }
    }

    /// <summary>The number of bytes from the start that are valid UTF-8 of characters allowed in HTML.</summary>
    private static int LengthOfGood(ReadOnlySpan<byte> utf8)
    {
        var length = 0;
        while (length < utf8.Length)
        {
            if (
                Rune.DecodeFromUtf8(utf8[length..], out var rune, out var used) != OperationStatus.Done
                || !FieldText.IsHeldByHtml(rune)
            )
                break;
            length += used;
        }

        return length;
    }

    /// <summary>A text encoded once, for use on every page.</summary>
    public static byte[] Encoded(string text)
    {
        using var buffer = new Utf8Buffer(text.Length + 16);
        buffer.AppendEncoded(text);
        return buffer.Written.ToArray();
    }

    /// <summary>A number of records for people.</summary>
    public static string Counted(Total total, Conventions conventions) =>
        (total.IsExact ? "" : "more than ") + ValueFormat.Count(total.Count, conventions);
}
