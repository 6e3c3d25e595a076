using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Jexa.Service.Media;

/// <summary>
/// Width and height of a picture in pixels, read from the beginning of its file, so that a browser reserves the room before the
/// picture arrives.
/// </summary>
internal static partial class PictureSize
{
    /// <summary>Cameras write other data before the size, such as previews.</summary>
    private const int HeadLength = 256 * 1024;

    private static readonly FactsOfFiles<Facts> Kept = new(Read);

    /// <summary>What a page says of a picture.</summary>
    /// <param name="CanShrink">Whether smaller ones can be made of it.</param>
    public sealed record Facts(int Width, int Height, bool CanShrink);

    /// <summary>The facts; null if the size is not where it is looked for.</summary>
    /// <param name="file">The path of the picture.</param>
    public static Facts? Of(string file) => Kept.Of(file);

    private static Facts? Read(FileStream file)
    {
        var bytes = new byte[Math.Min(HeadLength, file.Length)];
        var head = bytes.AsSpan(0, file.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false));
        return In(head) is var (width, height)
            ? new Facts(width, height, SmallPictures.CanShrink(PictureFiles.KindOf(head)!.MediaType))
            : null;
    }

    /// <summary>The size in the beginning of a picture.</summary>
    public static (int Width, int Height)? In(ReadOnlySpan<byte> head)
    {
        if (head.Length < 26)
            return null;
        var size = PictureFiles.KindOf(head)?.MediaType switch
        {
            "image/png" => (BinaryPrimitives.ReadInt32BigEndian(head[16..]), BinaryPrimitives.ReadInt32BigEndian(head[20..])),
            "image/gif" => (
                BinaryPrimitives.ReadUInt16LittleEndian(head[6..]),
                BinaryPrimitives.ReadUInt16LittleEndian(head[8..])
            ),
            "image/jpeg" => OfJpeg(head),
            "image/webp" => OfWebP(head),
            "image/avif" => OfAvif(head),
            "image/svg+xml" => OfDrawing(head),
            _ => default,
        };
        return size is (> 0 and < 100_000, > 0 and < 100_000) ? size : null;
    }

    /// <summary>
    /// The frame header (ITU T.81 B.2.2), after other segments. One of these may say that the picture is rotated.
    /// </summary>
    private static (int, int) OfJpeg(ReadOnlySpan<byte> head)
    {
        var isTurned = false;
        for (var at = 2; at + 9 < head.Length && head[at] == 0xff; )
        {
            var (marker, length) = (head[at + 1], BinaryPrimitives.ReadUInt16BigEndian(head[(at + 2)..]));
            if (marker == 0xe1 && at + 2 + length <= head.Length)
                isTurned |= IsTurned(head.Slice(at + 4, length - 2));
            if (marker is >= 0xc0 and <= 0xcf and not (0xc4 or 0xc8 or 0xcc))
            {
                var (height, width) = (
                    BinaryPrimitives.ReadUInt16BigEndian(head[(at + 5)..]),
                    BinaryPrimitives.ReadUInt16BigEndian(head[(at + 7)..])
                );
                return isTurned ? (height, width) : (width, height);
            }

            at += 2 + length;
        }

        return default;
    }

    /// <summary>Whether the orientation (Exif 2.3, tag 0x0112) rotates the picture by a quarter turn.</summary>
    private static bool IsTurned(ReadOnlySpan<byte> segment)
    {
        if (!segment.StartsWith("Exif\0\0"u8) || segment.Length < 20)
            return false;
        var tiff = segment[6..];
        var isLittle = tiff[0] == (byte)'I';
        int Short(ReadOnlySpan<byte> from) =>
            isLittle ? BinaryPrimitives.ReadUInt16LittleEndian(from) : BinaryPrimitives.ReadUInt16BigEndian(from);
        var first = isLittle ? BinaryPrimitives.ReadInt32LittleEndian(tiff[4..]) : BinaryPrimitives.ReadInt32BigEndian(tiff[4..]);
        if (first < 8 || first + 2 > tiff.Length)
            return false;
        var count = Short(tiff[first..]);
        for (var i = 0; i < count && first + 2 + ((i + 1) * 12) <= tiff.Length; i++)
        {
            var entry = tiff[(first + 2 + (i * 12))..];
            if (Short(entry) == 0x0112)
                return Short(entry[8..]) is >= 5 and <= 8;
        }

        return false;
    }

    /// <summary>The three forms of WebP (RFC 9649).</summary>
    private static (int, int) OfWebP(ReadOnlySpan<byte> head)
    {
        if (head.Length < 30)
            return default;
        var chunk = head[12..16];
        if (chunk.SequenceEqual("VP8 "u8))
            return (
                BinaryPrimitives.ReadUInt16LittleEndian(head[26..]) & 0x3fff,
                BinaryPrimitives.ReadUInt16LittleEndian(head[28..]) & 0x3fff
            );
        if (chunk.SequenceEqual("VP8X"u8))
            return (1 + (head[24] | head[25] << 8 | head[26] << 16), 1 + (head[27] | head[28] << 8 | head[29] << 16));
        if (!chunk.SequenceEqual("VP8L"u8))
            return default;
        var bits = BinaryPrimitives.ReadUInt32LittleEndian(head[21..]);
        return (1 + (int)(bits & 0x3fff), 1 + (int)((bits >> 14) & 0x3fff));
    }

    /// <summary>The property of spatial extents (ISO/IEC 23008-12, 6.5.3): the first one is the picture's.</summary>
    private static (int, int) OfAvif(ReadOnlySpan<byte> head)
    {
        var at = head.IndexOf("ispe"u8);
        return at < 0 || at + 16 > head.Length
            ? default
            : (BinaryPrimitives.ReadInt32BigEndian(head[(at + 8)..]), BinaryPrimitives.ReadInt32BigEndian(head[(at + 12)..]));
    }

    /// <summary>Width and height of the root element, if they are plain numbers or pixels.</summary>
    private static (int, int) OfDrawing(ReadOnlySpan<byte> head)
    {
        var root = Root().Match(Encoding.UTF8.GetString(head[..Math.Min(head.Length, 8192)]));
        return root.Success && Side(root.Value, "width") is { } width && Side(root.Value, "height") is { } height
            ? (width, height)
            : default;
    }

    private static int? Side(string root, string name) =>
        Regex.Match(root, $@"\s{name}\s*=\s*[""']\s*([0-9]+(?:\.[0-9]+)?)(?:px)?\s*[""']") is { Success: true } found
        && double.TryParse(found.Groups[1].Value, CultureInfo.InvariantCulture, out var pixels)
            ? (int)Math.Round(pixels)
            : null;

    [GeneratedRegex(@"<svg\b[^>]*>")]
    private static partial Regex Root();
}
