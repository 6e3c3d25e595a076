using System.Buffers;

namespace Jexa.Core.Addresses;

/// <summary>
/// The path prefix that every address of an app begins with, where a proxy gives it only a part of a host: <c>/register</c>,
/// <c>/a/b</c>, or nothing. It is spelled with characters only that mean themselves in a path (RFC 3986, unreserved).
/// </summary>
public sealed class Mount
{
    private static readonly SearchValues<char> Plain = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~"
    );

    private Mount(string text, string[] segments)
    {
        Text = text;
        Segments = segments;
    }

    /// <summary>No prefix: addresses begin at the root of the host.</summary>
    public static Mount Root { get; } = new("", []);

    /// <summary>The prefix as addresses begin with it: empty, or with a slash in front and none behind.</summary>
    public string Text { get; }

    public IReadOnlyList<string> Segments { get; }

    /// <summary>Reads a prefix as somebody wrote it, a slash behind it or not; null if it is none.</summary>
    public static Mount? Parse(string text)
    {
        if (text is "" or "/")
            return Root;
        if (!text.StartsWith('/'))
            return null;
        var segments = text.TrimEnd('/').Split('/')[1..];
        return segments.Length > 0 && Array.TrueForAll(segments, IsPlain)
            ? new Mount("/" + string.Join('/', segments), segments)
            : null;
    }

    public override string ToString() => Text;

    private static bool IsPlain(string segment) =>
        segment is not ("" or "." or "..") && !segment.AsSpan().ContainsAnyExcept(Plain);
}
