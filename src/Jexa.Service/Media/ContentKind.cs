using System.Text.Unicode;

namespace Jexa.Service.Media;

/// <summary>The kind of some bytes, told by their beginning.</summary>
/// <param name="Name">For people, before the size; empty if it is not known.</param>
/// <param name="Ending">The ending for a file name.</param>
internal sealed record ContentKind(string Name, string MediaType, string Ending)
{
    private static readonly ContentKind Unknown = new("", "application/octet-stream", ".bin");
    private static readonly ContentKind Text = new("Text", "text/plain; charset=utf-8", ".txt");

    private static readonly Dictionary<string, ContentKind> Pictures = new()
    {
        ["image/png"] = new("PNG picture", "image/png", ".png"),
        ["image/jpeg"] = new("JPEG picture", "image/jpeg", ".jpg"),
        ["image/gif"] = new("GIF picture", "image/gif", ".gif"),
        ["image/webp"] = new("WebP picture", "image/webp", ".webp"),
        ["image/avif"] = new("AVIF picture", "image/avif", ".avif"),
        ["image/svg+xml"] = new("SVG drawing", "image/svg+xml", ".svg"),
    };

    /// <summary>The bytes of a longer text to look at.</summary>
    private const int Looked = 4096;

    public static ContentKind Of(ReadOnlySpan<byte> content)
    {
        if (PictureFiles.KindOf(content) is { } picture && Pictures.TryGetValue(picture.MediaType, out var known))
            return known;
        if (content.StartsWith("%PDF-"u8))
            return new ContentKind("PDF document", "application/pdf", ".pdf");
        if (content.StartsWith("PK\u0003\u0004"u8))
            return new ContentKind("ZIP archive", "application/zip", ".zip");
        if (content.StartsWith((ReadOnlySpan<byte>)[0x1f, 0x8b]))
            return new ContentKind("Gzip archive", "application/gzip", ".gz");
        return IsText(content) ? Text : Unknown;
    }

    private static bool IsText(ReadOnlySpan<byte> content)
    {
        var part = content.Length <= Looked ? content : content[..Looked];

        // The last character may be cut.
        while (content.Length > Looked && part.Length > Looked - 4 && !Utf8.IsValid(part))
            part = part[..^1];
        return part.Length > 0
            && Utf8.IsValid(part)
            && part.IndexOfAnyInRange((byte)0, (byte)8) < 0
            && part.IndexOfAnyInRange((byte)14, (byte)31) < 0;
    }
}
