using Jexa.Core.Views;

namespace Jexa.Service.Media;

/// <summary>Finds pictures in the folders of app files: files that begin like a picture.</summary>
internal static class PictureFiles
{
    private const int HeadLength = 512;

    /// <summary>The path of a picture's file; null if there is none below the folder.</summary>
    /// <param name="name">The name in the record: untrusted.</param>
    public static string? Find(string folder, string name) => FolderFiles.Find(folder, name, FilePlan.MostOfPicture);

    /// <summary>The kind of a picture file; null for other files.</summary>
    public static PictureKind? KindOf(ReadOnlySpan<byte> head)
    {
        // Not as a UTF-8 literal, in which the character 0x89 has two bytes.
        if (
            head.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G', (byte)'\r', (byte)'\n', 0x1a, (byte)'\n'])
        )
            return new PictureKind("image/png", false);
        if (head.StartsWith((ReadOnlySpan<byte>)[0xff, 0xd8, 0xff]))
            return new PictureKind("image/jpeg", false);
        if (head.StartsWith("GIF87a"u8) || head.StartsWith("GIF89a"u8))
            return new PictureKind("image/gif", false);
        if (head.StartsWith("RIFF"u8) && head.Length > 12 && head[8..].StartsWith("WEBP"u8))
            return new PictureKind("image/webp", false);
        if (head.Length > 12 && head[4..].StartsWith("ftypavif"u8))
            return new PictureKind("image/avif", false);
        return IsDrawing(head) ? new PictureKind("image/svg+xml", true) : null;
    }

    public static byte[] Head(Stream file)
    {
        var head = new byte[HeadLength];
        var length = file.ReadAtLeast(head, HeadLength, throwOnEndOfStream: false);
        file.Position = 0;
        return head[..length];
    }

    /// <summary>An SVG document begins with its root element, after what XML allows before it.</summary>
    private static bool IsDrawing(ReadOnlySpan<byte> head)
    {
        if (head.StartsWith((ReadOnlySpan<byte>)[0xef, 0xbb, 0xbf]))
            head = head[3..];
        while (true)
        {
            head = head.TrimStart(" \t\r\n"u8);
            if (head.StartsWith("<svg"u8))
                return true;
            var end =
                head.StartsWith("<?"u8) ? "?>"u8
                : head.StartsWith("<!--"u8) ? "-->"u8
                : head.StartsWith("<!DOCTYPE svg"u8) ? ">"u8
                : default;
            var close = end.IsEmpty ? -1 : head.IndexOf(end);
            if (close < 0)
                return false;
            head = head[(close + end.Length)..];
        }
    }
}
