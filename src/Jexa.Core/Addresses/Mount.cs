using System.Buffers;

namespace Jexa.Core.Addresses;

/// <summary>
/// The path prefix of all addresses of an app, if a proxy gives it only a part of a host: <c>/register</c>, <c>/a/b</c>, or
/// nothing. It has unreserved characters only (RFC 3986).
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

    /// <summary>The prefix: empty, or with a slash at the beginning and none at the end.</summary>
    public string Text { get; }

    /// <summary>The path's segments, decoded. Empty at the root.</summary>
    public IReadOnlyList<string> Segments { get; }

    /// <summary>Reads a prefix as a user writes it, with or without a slash at the end; null if it is not valid.</summary>
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

    /// <summary>The path as text, without a final slash. Empty at the root.</summary>
    public override string ToString() => Text;

    private static bool IsPlain(string segment) =>
        segment is not ("" or "." or "..") && !segment.AsSpan().ContainsAnyExcept(Plain);
}
