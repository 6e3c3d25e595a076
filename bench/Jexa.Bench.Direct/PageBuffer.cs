using System.Buffers;
using System.Buffers.Text;
using System.Text.Encodings.Web;
using System.Text.Unicode;

namespace Jexa.Bench.Direct;

/// <summary>Bytes of one page over a pooled array.</summary>
internal sealed class PageBuffer
{
    private static readonly SearchValues<byte> Plain = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 .,;:/?!()[]{}-_=%#*@|~^$\n"u8
    );

    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    private byte[] _bytes = ArrayPool<byte>.Shared.Rent(32 * 1024);

    public int Length { get; private set; }

    public ReadOnlyMemory<byte> Written => _bytes.AsMemory(0, Length);

    public static PageBuffer Rent() => new();

    public void Return() => ArrayPool<byte>.Shared.Return(_bytes);

    public void Append(ReadOnlySpan<byte> bytes)
    {
        if (_bytes.Length - Length < bytes.Length)
            Grow(bytes.Length);
        bytes.CopyTo(_bytes.AsSpan(Length));
        Length += bytes.Length;
    }

    public void Append(long value)
    {
        if (_bytes.Length - Length < 20)
            Grow(20);
        Utf8Formatter.TryFormat(value, _bytes.AsSpan(Length), out var written);
        Length += written;
    }

    public void Append(double value)
    {
        if (_bytes.Length - Length < 32)
            Grow(32);
        value.TryFormat(_bytes.AsSpan(Length), out var written, "R", System.Globalization.CultureInfo.InvariantCulture);
        Length += written;
    }

    public void AppendEncoded(ReadOnlySpan<byte> text)
    {
        if (!text.ContainsAnyExcept(Plain))
        {
            Append(text);
            return;
        }

        if (_bytes.Length - Length < text.Length * 6)
            Grow(text.Length * 6);
        Encoder.EncodeUtf8(text, _bytes.AsSpan(Length), out _, out var written);
        Length += written;
    }

    private void Grow(int by)
    {
        var larger = ArrayPool<byte>.Shared.Rent((_bytes.Length * 2) + by);
        _bytes.AsSpan(0, Length).CopyTo(larger);
        ArrayPool<byte>.Shared.Return(_bytes);
        _bytes = larger;
    }
}
