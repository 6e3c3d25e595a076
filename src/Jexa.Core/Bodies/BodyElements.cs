namespace Jexa.Core.Bodies;

/// <summary>Elements of HTML that are treated alike.</summary>
internal static class BodyElements
{
    /// <summary>Elements without content (HTML, void elements).</summary>
    public static readonly IReadOnlySet<string> Void = Set("area base br col embed hr img input link meta source track wbr");

    /// <summary>Elements whose end tag may be left out (HTML, optional tags): they nest less deep than they look.</summary>
    public static readonly IReadOnlySet<string> OpenEnded = Set(
        "p li dt dd tr td th thead tbody tfoot option optgroup colgroup html head body rt rp"
    );

    /// <summary>Elements that may run something, or show what is not the app's.</summary>
    public static readonly IReadOnlySet<string> Refused = Set(
        "iframe object embed base applet frame frameset portal plaintext meta"
    );

    /// <summary>Elements whose content is not HTML for people, or not HTML at all: no value stands in them.</summary>
    public static readonly IReadOnlySet<string> Closed = Set("template noscript svg math");

    /// <summary>Elements that stay though all that they hold is left out.</summary>
    public static readonly IReadOnlySet<string> Staying = Set(
        "main form fieldset select table thead tbody tfoot tr td th caption body label button header footer"
    );

    /// <summary>Elements that hold text and what stands in a line of it (HTML, phrasing content).</summary>
    public static readonly IReadOnlySet<string> Phrasing = Set(
        "p h1 h2 h3 h4 h5 h6 span b i em strong small code q s u mark sub sup abbr cite dfn kbd samp var label legend button "
            + "summary dt pre option a data time meter output bdi bdo"
    );

    /// <summary>Elements that cannot hold the value of a field.</summary>
    public static readonly IReadOnlySet<string> Valueless = Set("input select textarea br hr link progress source track");

    private static HashSet<string> Set(string names) => [.. names.Split(' ')];
}
