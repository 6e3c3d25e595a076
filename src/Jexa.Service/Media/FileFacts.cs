using System.Collections.Concurrent;
using System.Globalization;
using Jexa.Core.Files;

namespace Jexa.Service.Media;

/// <summary>Kind and length of a file. It is read again only if the file has changed.</summary>
internal sealed record FileFacts(ContentKind Kind, long Length)
{
    private const int MostKept = 10_000;

    private static readonly ConcurrentDictionary<string, (FileStatus File, FileFacts Facts)> Kept = [];

    /// <summary>Null if the file cannot be read.</summary>
    public static FileFacts? Of(string file)
    {
        if (FileStatus.Of(file) is not { } now)
            return null;
        if (Kept.TryGetValue(file, out var kept) && kept.File == now)
            return kept.Facts;
        if (Kept.Count >= MostKept)
            Kept.Clear();
        try
        {
            using var stream = PlainFile.OpenRead(file);
            var facts = new FileFacts(ContentKind.OfFile(stream), now.Length);
            Kept[file] = (now, facts);
            return facts;
        }
        catch (Exception unread) when (unread is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>Bytes for people, in units of 1,000 (IEC 80000-13).</summary>
    public static string Size(long bytes) =>
        bytes < 1000 ? $"{bytes} bytes"
        : bytes < 1_000_000 ? string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e3:0} kB")
        : bytes < 1_000_000_000 ? string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e6:0.#} MB")
        : string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e9:0.#} GB");
}
