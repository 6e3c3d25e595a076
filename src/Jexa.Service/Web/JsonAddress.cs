using Jexa.Core.Addresses;

namespace Jexa.Service.Web;

/// <summary>
/// The addresses that ask for JSON without a header: <c>/_jexa/json</c> before a page's own address, such as
/// <c>/_jexa/json/bridges/7</c>. They are the same pages. Redirects from them lead to such addresses again.
/// </summary>
internal static class JsonAddress
{
    public const string Segment = "json";

    /// <summary>The prefix below the mount.</summary>
    public const string Prefix = $"/{RequestTarget.ReservedSegment}/{Segment}";

    /// <summary>The page's own address; null for other targets.</summary>
    public static string? PageOf(RequestTarget target, Mount mount)
    {
        if (!target.IsReserved || target.Segments.Length < 2 || !target.Text(1).SequenceEqual(Segment))
            return null;
        var path = target.Path;
        return path.StartsWith(Prefix, StringComparison.Ordinal)
            ? $"{mount.Text}{(path.Length > Prefix.Length ? path[Prefix.Length..] : "/")}{target.QueryString}"
            : null;
    }

    /// <summary>The address for a page's JSON. Addresses of other programs are unchanged.</summary>
    public static string Of(string address, Mount mount) =>
        address.StartsWith(mount.Text + "/", StringComparison.Ordinal)
            ? mount.Text + Prefix + address[mount.Text.Length..]
            : address;
}
