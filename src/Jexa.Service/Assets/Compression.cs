using System.IO.Compression;
using Jexa.Core.Values;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Assets;

/// <summary>Compresses whole pages with Brotli (RFC 7932) if the request accepts it.</summary>
internal static class Compression
{
    public const string Coding = "br";

    /// <summary>A smaller page fits into a packet or two anyway.</summary>
    private const int Least = 1400;

    /// <summary>A level whose time is about what it saves on a slow line.</summary>
    private const int Quality = 4;
    private const int Window = 18;

    /// <summary>The compressed page, to be disposed; null if it is not accepted, too small, or would not shrink.</summary>
    public static Utf8Buffer? TryCompress(StringValues accepted, Utf8Buffer body) =>
        IsAccepted(accepted) ? TryCompress(body.Written) : null;

    /// <summary>Compressed bytes, to be disposed; null if they are too few, or would not shrink.</summary>
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
