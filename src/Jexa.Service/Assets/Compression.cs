using System.IO.Compression;
using Jexa.Core.Values;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Assets;

/// <summary>Compresses whole pages with Brotli (RFC 7932) for those who ask for it.</summary>
internal static class Compression
{
    public const string Coding = "br";

    /// <summary>Below this a page fits into a packet or two in any case.</summary>
    private const int Least = 1400;

    /// <summary>A level that costs about as much time as it saves on a slow line.</summary>
    private const int Quality = 4;
    private const int Window = 18;

    /// <summary>The page compressed, to be disposed; null if it is not asked for, too small, or would not shrink.</summary>
    public static Utf8Buffer? TryCompress(StringValues accepted, Utf8Buffer body) =>
        IsAccepted(accepted) ? TryCompress(body.Written) : null;

    /// <summary>Bytes compressed, to be disposed; null if they are too few, or would not shrink.</summary>
    public static Utf8Buffer? TryCompress(ReadOnlySpan<byte> body)
    {
        if (body.Length < Least)
            return null;
        var compressed = new Utf8Buffer(BrotliEncoder.GetMaxCompressedLength(body.Length));
        if (
            BrotliEncoder.TryCompress(
                body,
                compressed.Room(BrotliEncoder.GetMaxCompressedLength(body.Length)),
                out var written,
                Quality,
                Window
            )
            && written < body.Length
        )
        {
            compressed.Advance(written);
            return compressed;
        }

        compressed.Dispose();
        return null;
    }

    public static bool IsAccepted(StringValues accepted) =>
        accepted.ToString().Contains(Coding, StringComparison.OrdinalIgnoreCase)
        && StringWithQualityHeaderValue.TryParseList(accepted, out var codings)
        && codings.Any(coding =>
            coding.Value.Equals(Coding, StringComparison.OrdinalIgnoreCase) && coding.Quality is null or > 0
        );
}
