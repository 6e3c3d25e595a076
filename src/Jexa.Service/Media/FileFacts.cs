using System.Globalization;

namespace Jexa.Service.Media;

/// <summary>Kind and length of a file.</summary>
internal sealed record FileFacts(ContentKind Kind, long Length)
{
    private static readonly FactsOfFiles<FileFacts> Kept = new(file => new FileFacts(ContentKind.OfFile(file), file.Length));

    /// <summary>Null if the file cannot be read.</summary>
    public static FileFacts? Of(string file) => Kept.Of(file);

    /// <summary>Bytes for people, in units of 1,000 (IEC 80000-13).</summary>
    public static string Size(long bytes) =>
        bytes < 1000 ? $"{bytes} bytes"
        : bytes < 1_000_000 ? string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e3:0} kB")
        : bytes < 1_000_000_000 ? string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e6:0.#} MB")
        : string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e9:0.#} GB");
}
