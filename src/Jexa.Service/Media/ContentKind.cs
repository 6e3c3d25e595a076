using System.Text.Unicode;

namespace Jexa.Service.Media;

/// <summary>The kind of some bytes, told by their beginning.</summary>
/// <param name="Name">For people, before the size; empty if it is not known.</param>
/// <param name="Ending">The ending for a file name.</param>
internal sealed record ContentKind(string Name, string MediaType, string Ending)
{
    private static readonly ContentKind Mp4 = new("MP4 film", "video/mp4", ".mp4");
    private static readonly ContentKind M4A = new("MPEG-4 recording", "audio/mp4", ".m4a");
    private static readonly ContentKind Mp3 = new("MP3 recording", "audio/mpeg", ".mp3");

    /// <summary>What is played, by how it begins: the offset, and the bytes there.</summary>
    private static readonly (int At, byte[] Bytes, ContentKind Kind)[] Recordings =
    [
        (4, "ftypM4A"u8.ToArray(), M4A),
        (4, "ftypM4B"u8.ToArray(), M4A),
        (4, "ftypqt"u8.ToArray(), new("QuickTime film", "video/quicktime", ".mov")),
        (4, "ftyp"u8.ToArray(), Mp4),
        (0, [0x1a, 0x45, 0xdf, 0xa3], new("WebM film", "video/webm", ".webm")),
        (0, "OggS"u8.ToArray(), new("Ogg recording", "audio/ogg", ".ogg")),
        (0, "fLaC"u8.ToArray(), new("FLAC recording", "audio/flac", ".flac")),
        (8, "WAVE"u8.ToArray(), new("WAV recording", "audio/wav", ".wav")),
        (0, "ID3"u8.ToArray(), Mp3),
    ];

    /// <summary>Whether a browser may play it.</summary>
    public bool IsPlayed =>
        MediaType.StartsWith("video/", StringComparison.Ordinal) || MediaType.StartsWith("audio/", StringComparison.Ordinal);

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
        if (Played(content) is { } played)
            return played;
        if (content.StartsWith("%PDF-"u8))
            return new ContentKind("PDF document", "application/pdf", ".pdf");
        if (content.StartsWith("PK\u0003\u0004"u8))
            return new ContentKind("ZIP archive", "application/zip", ".zip");
        if (content.StartsWith((ReadOnlySpan<byte>)[0x1f, 0x8b]))
            return new ContentKind("Gzip archive", "application/gzip", ".gz");
        return IsText(content) ? Text : Unknown;
    }

    private static ContentKind? Played(ReadOnlySpan<byte> content)
    {
        foreach (var (at, bytes, kind) in Recordings)
            if (content.Length > at && content[at..].StartsWith(bytes))
                return kind;

        // The first frame of an MPEG audio layer III (ISO/IEC 11172-3): 11 bits set, then version and layer.
        return content.Length > 2 && content[0] == 0xff && (content[1] & 0xe6) == 0xe2 ? Mp3 : null;
    }

    /// <summary>The kind of a file, read from its beginning.</summary>
    public static ContentKind OfFile(Stream file)
    {
        var head = new byte[Looked + 1];
        var length = file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
        file.Position = 0;
        return Of(head.AsSpan(0, length));
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
