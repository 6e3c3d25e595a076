using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Service.Html;

/// <summary>
/// The one way that text gets into HTML, in element content and in quoted attributes alike: encoded. Letters of all
/// scripts stay as they are.
/// </summary>
internal static class HtmlText
{
    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    private static readonly SearchValues<byte> Plain =
        SearchValues.Create("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 .,;:/?!()[]{}-_=%#*@|~^$\n"u8);

    public static void AppendEncoded(this Utf8Buffer into, ReadOnlySpan<byte> utf8)
    {
        if (!utf8.ContainsAnyExcept(Plain))
        {
            into.Append(utf8);
            return;
        }

        while (!utf8.IsEmpty)
        {
            var result = Encoder.EncodeUtf8(utf8, into.Room(Math.Max(64, utf8.Length * 2)), out var read, out var written);
            into.Advance(written);
            utf8 = utf8[read..];
            if (result is OperationStatus.Done) return;
            if (result is OperationStatus.InvalidData or OperationStatus.NeedMoreData)
            {
                into.Append("\uFFFD"u8);
                utf8 = utf8[Math.Min(1, utf8.Length)..];
            }
        }
    }

    public static void AppendEncoded(this Utf8Buffer into, string text) => into.AppendEncoded(Encoding.UTF8.GetBytes(text));

    /// <summary>A text encoded once, for what is written on every page.</summary>
    public static byte[] Encoded(string text)
    {
        using var buffer = new Utf8Buffer(text.Length + 16);
        buffer.AppendEncoded(text);
        return buffer.Written.ToArray();
    }
}
