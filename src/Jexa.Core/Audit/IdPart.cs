namespace Jexa.Core.Audit;

/// <summary>Where the ID stands in an address.</summary>
/// <param name="Segment">The number of the path's segment; -1 if it is a parameter.</param>
/// <param name="Parameter">The name of the parameter; null if it is a segment.</param>
public sealed record IdPart(int Segment, string? Parameter)
{
    /// <summary>The ID of an address, decoded; null if it has none there.</summary>
    public string? Of(Uri address)
    {
        if (Parameter is null)
            return Segments(address) is var segments && Segment < segments.Length
                ? Uri.UnescapeDataString(segments[Segment])
                : null;
        return Pairs(address).FirstOrDefault(pair => pair.Name == Parameter).Value;
    }

    /// <summary>The address with another ID.</summary>
    /// <param name="id">Encoded already; null takes the parameter away, or leaves the segment empty.</param>
    public Uri With(Uri address, string? id)
    {
        if (Parameter is null)
        {
            var segments = Segments(address);
            if (Segment < segments.Length)
                segments[Segment] = id ?? "";
            return new Uri($"{address.GetLeftPart(UriPartial.Authority)}/{string.Join('/', segments)}{address.Query}");
        }

        var pairs = Pairs(address)
            .Where(pair => id is not null || pair.Name != Parameter)
            .Select(pair => pair.Name == Parameter ? $"{pair.Raw}={id}" : $"{pair.Raw}={Uri.EscapeDataString(pair.Value)}");
        var query = string.Join('&', pairs);
        return new Uri($"{address.GetLeftPart(UriPartial.Path)}{(query.Length == 0 ? "" : "?" + query)}");
    }

    /// <summary>The segments of a path, encoded.</summary>
    public static string[] Segments(Uri address) => address.AbsolutePath.TrimStart('/').Split('/');

    /// <summary>The pairs of a query, by <c>&amp;</c> or <c>;</c>.</summary>
    public static IReadOnlyList<(string Name, string Raw, string Value)> Pairs(Uri address) =>
        [
            .. address
                .Query.TrimStart('?')
                .Split('&', ';')
                .Where(pair => pair.Length > 0)
                .Select(pair => pair.Split('=', 2))
                .Select(pair => (Decoded(pair[0]), pair[0], pair.Length > 1 ? Decoded(pair[1]) : "")),
        ];

    private static string Decoded(string text) => Uri.UnescapeDataString(text.Replace('+', ' '));
}
