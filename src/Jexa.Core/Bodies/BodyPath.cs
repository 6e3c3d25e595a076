namespace Jexa.Core.Bodies;

/// <summary>Paths of files below the app file's folder, with slashes.</summary>
internal static class BodyPath
{
    /// <summary>Kinds of files that a page may use.</summary>
    private static readonly HashSet<string> Kinds =
    [
        ".css",
        ".js",
        ".mjs",
        ".png",
        ".jpg",
        ".jpeg",
        ".gif",
        ".webp",
        ".avif",
        ".svg",
        ".ico",
        ".woff",
        ".woff2",
        ".mp4",
        ".webm",
        ".mp3",
        ".ogg",
        ".vtt",
    ];

    public static bool IsServed(string path) => Kinds.Contains(Path.GetExtension(path).ToLowerInvariant());

    /// <summary>Whether an address in a file means a file beside it: it has no scheme, host or root.</summary>
    public static bool IsRelative(string address) =>
        address.Length > 0
        && address[0] is not ('/' or '#' or '?' or '\\')
        && !address.TakeWhile(c => c is not ('/' or '?' or '#')).Contains(':');

    /// <summary>The path of a file that another one names; null if it is not below the app file's folder.</summary>
    /// <param name="from">The folder of the other file; empty for the app file's.</param>
    public static string? Of(string from, string address)
    {
        var path = address.Split('?', '#')[0];
        var parts = from.Split('/', StringSplitOptions.RemoveEmptyEntries).ToList();
        foreach (var part in Uri.UnescapeDataString(path).Split('/'))
        {
            if (part.Length == 0 || part[0] == '.' && part is not ("." or "..") || part.AsSpan().ContainsAny('\\', '\0'))
                return null;
            if (part == "..")
            {
                if (parts.Count == 0)
                    return null;
                parts.RemoveAt(parts.Count - 1);
            }
            else if (part != ".")
            {
                parts.Add(part);
            }
        }

        return parts.Count == 0 ? null : string.Join('/', parts);
    }

    /// <summary>The folder of a path, without a slash at its end.</summary>
    public static string FolderOf(string path) => path.LastIndexOf('/') is var slash and >= 0 ? path[..slash] : "";
}
