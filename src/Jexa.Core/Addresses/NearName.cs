namespace Jexa.Core.Addresses;

/// <summary>
/// Names that people confuse: they differ only in letter case or in characters that are neither letters nor digits.
/// </summary>
public static class NearName
{
    /// <summary>
    /// Whether two different names are nearly the same: <c>bridgeid</c>, <c>Bridge_ID</c> and <c>bridgeId[]</c>.
    /// </summary>
    public static bool Is(string a, string b) => a != b && Folded(a) is { Length: > 0 } folded && folded == Folded(b);

    private static string Folded(string name) => string.Concat(name.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant));
}
