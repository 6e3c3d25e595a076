namespace Jexa.Core.Addresses;

/// <summary>
/// A raw request target (RFC 9112 section 3.2), read once. Everything is decided by this reading: pages, parameters, Jexa's own
/// addresses. It is split at raw slashes first; then each segment is decoded. Never throws.
/// </summary>
public sealed class RequestTarget
{
    /// <summary>The first segment of all of Jexa's own addresses.</summary>
    public const string ReservedSegment = "_jexa";

    private readonly TargetSegment[] _segments;

    private RequestTarget(string raw, TargetFault fault, int pathStart, int pathEnd, TargetSegment[] segments, QueryPair[] query)
    {
        Raw = raw;
        Fault = fault;
        PathStart = pathStart;
        PathEnd = pathEnd;
        _segments = segments;
        Query = query;
    }

    /// <summary>The target as it came.</summary>
    public string Raw { get; }

    /// <summary>What is wrong with the target. <see cref="TargetFault.None"/> if it can be matched.</summary>
    public TargetFault Fault { get; }

    /// <summary>
    /// The path below the mount as it came, without scheme, host and query string; empty if it is the mount itself.
    /// </summary>
    public ReadOnlySpan<char> Path => Raw.AsSpan(PathStart, PathEnd - PathStart);

    /// <summary>The query string as it came, with its question mark; empty if there is none.</summary>
    public ReadOnlySpan<char> QueryString => Raw.AsSpan(PathEnd);

    /// <summary>The segments below the mount; the root path has none. A trailing slash makes a last, empty segment.</summary>
    public ReadOnlySpan<TargetSegment> Segments => _segments;

    /// <summary>The pairs of the query string in order. Pairs with a name that cannot be decoded are left out.</summary>
    public IReadOnlyList<QueryPair> Query { get; }

    /// <summary>Whether the path is one of Jexa's own, below <c>/_jexa</c>.</summary>
    public bool IsReserved => _segments.Length > 0 && Text(0).SequenceEqual(ReservedSegment);

    /// <summary>Whether the path ends in a slash that is not the root's own.</summary>
    public bool HasTrailingSlash => _segments.Length > 0 && _segments[^1].Length == 0;

    /// <summary>Whether the slash at the end is the only one too many: no other segment is empty.</summary>
    public bool HasOneTrailingSlash =>
        HasTrailingSlash && Array.FindIndex(_segments, segment => segment.Length == 0) == _segments.Length - 1;

    private int PathStart { get; }

    private int PathEnd { get; }

    /// <summary>The decoded text of a segment; empty if it is bad.</summary>
    public ReadOnlySpan<char> Text(int segment) => Text(Raw, _segments[segment]);

    /// <summary>Reads a request target (RFC 9112, section 3.2.1) of an app at the root.</summary>
    public static RequestTarget Read(string raw) => Read(raw, Mount.Root);

    /// <param name="mount">The prefix of all addresses. Only what comes after it is read.</param>
    public static RequestTarget Read(string raw, Mount mount)
    {
        var start = StripOrigin(raw);
        if (start < 0)
            return Faulty(raw, TargetFault.NotAPath);
        foreach (var c in raw.AsSpan(start))
            if (c is <= ' ' or '\\' or '#' or >= '\x7f')
                return Faulty(raw, TargetFault.ForbiddenCharacter);

        var question = raw.IndexOf('?', start);
        var end = question < 0 ? raw.Length : question;
        var segments = Split(raw, start, end, out var dots);
        if (dots)
            return Faulty(raw, TargetFault.DotSegment);
        var depth = mount.Segments.Count;
        if (depth > 0)
        {
            if (!StartsWith(raw, segments, mount))
                return Faulty(raw, TargetFault.OutsideMount);
            start = segments[depth - 1].Start + segments[depth - 1].Length;
            segments = end - start <= 1 ? [] : segments[depth..];
        }

        return new RequestTarget(
            raw,
            TargetFault.None,
            start,
            end,
            segments,
            question < 0 ? [] : Pairs(raw.AsSpan(question + 1))
        );
    }

    private static bool StartsWith(string raw, TargetSegment[] segments, Mount mount)
    {
        if (segments.Length < mount.Segments.Count)
            return false;
        for (var i = 0; i < mount.Segments.Count; i++)
            if (!Text(raw, segments[i]).SequenceEqual(mount.Segments[i]))
                return false;

        return true;
    }

    private static ReadOnlySpan<char> Text(string raw, in TargetSegment segment) =>
        segment.IsBad ? default
        : segment.Decoded is { } decoded ? decoded
        : raw.AsSpan(segment.Start, segment.Length);

    /// <summary>Where the path begins: 0 in origin-form, after the authority in absolute-form, -1 in other forms.</summary>
    private static int StripOrigin(string raw)
    {
        if (raw.StartsWith('/'))
            return 0;
        var scheme =
            raw.StartsWith("http://", StringComparison.OrdinalIgnoreCase) ? 7
            : raw.StartsWith("https://", StringComparison.OrdinalIgnoreCase) ? 8
            : -1;
        if (scheme < 0)
            return -1;
        var path = raw.AsSpan(scheme).IndexOfAny("/?#\\");
        return path >= 0 && raw[scheme + path] == '/' ? scheme + path : -1;
    }

    private static TargetSegment[] Split(string raw, int start, int end, out bool dots)
    {
        dots = false;
        if (end - start <= 1)
            return [];
        var count = 0;
        foreach (var c in raw.AsSpan(start, end - start))
            if (c == '/')
                count++;

        var segments = new TargetSegment[count];
        var from = start + 1;
        for (var i = 0; i < count; i++)
        {
            var slash = raw.AsSpan(from, end - from).IndexOf('/');
            var length = slash < 0 ? end - from : slash;
            var text = raw.AsSpan(from, length);
            string? decoded = null;
            var bad = false;
            if (text.Contains('%'))
            {
                decoded = PercentCoding.Decode(text, plusIsSpace: false);
                bad = decoded is null;
                text = decoded;
            }

            if (!bad && text is "." or "..")
                dots = true;
            segments[i] = new TargetSegment(from, length, decoded, bad);
            from += length + 1;
        }

        return segments;
    }

    /// <summary>The pairs of a query string, without its question mark.</summary>
    internal static QueryPair[] Pairs(ReadOnlySpan<char> query)
    {
        var pairs = new List<QueryPair>();
        foreach (var range in query.Split('&'))
        {
            var pair = query[range];
            if (pair.IsEmpty)
                continue;
            var equals = pair.IndexOf('=');
            var name = PercentCoding.Decode(equals < 0 ? pair : pair[..equals], plusIsSpace: true);
            if (name is null)
                continue;
            pairs.Add(new QueryPair(name, equals < 0 ? "" : PercentCoding.Decode(pair[(equals + 1)..], plusIsSpace: true)));
        }

        return [.. pairs];
    }

    private static RequestTarget Faulty(string raw, TargetFault fault) => new(raw, fault, 0, 0, [], []);
}
