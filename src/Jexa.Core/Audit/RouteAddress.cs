namespace Jexa.Core.Audit;

/// <summary>
/// Addresses of pages that a script tells apart by the fragment: <c>/app#/bridges/7</c>. They are handled with the mark encoded,
/// as if the fragment were a part of the path: <c>/app%23/bridges/7</c>.
/// </summary>
public static class RouteAddress
{
    private const string Mark = "%23";

    /// <summary>The address as it is handled: other fragments are left out.</summary>
    public static Uri Fold(Uri address) =>
        address.Fragment.StartsWith("#/", StringComparison.Ordinal)
        || address.Fragment.StartsWith("#!/", StringComparison.Ordinal)
            ? new Uri(address.GetLeftPart(UriPartial.Query) + Mark + address.Fragment[1..])
            : new Uri(address.GetLeftPart(UriPartial.Query));

    /// <summary>The address as a browser has it.</summary>
    public static Uri Unfold(Uri address)
    {
        if (!IsFolded(address))
            return address;
        var text = address.AbsoluteUri;
        var at = text.IndexOf(Mark, StringComparison.Ordinal);
        return new Uri(text[..at] + "#" + text[(at + Mark.Length)..]);
    }

    /// <summary>The address without its origin, for people.</summary>
    public static string Shown(Uri address)
    {
        var shown = Unfold(address);
        return shown.PathAndQuery + shown.Fragment;
    }

    /// <summary>Whether an address has its page in the fragment: no request of it says which one.</summary>
    public static bool IsFolded(Uri address) =>
        address.AbsoluteUri.Contains("%23/", StringComparison.Ordinal)
        || address.AbsoluteUri.Contains("%23!/", StringComparison.Ordinal);
}
