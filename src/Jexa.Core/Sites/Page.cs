namespace Jexa.Core.Sites;

/// <summary>A page, compiled. Its addresses are matched, read and built from the same template.</summary>
public abstract class Page(PageHead head)
{
    public string Name => Head.Name;

    public PageHead Head { get; } = head;

    /// <summary>The record kind it shows; null on a text page.</summary>
    public SiteRecord? Record => Head.Kind;

    public IReadOnlyList<PageParameter> Parameters => Head.Parameters;

    /// <summary>The page's kind in the app file's words.</summary>
    public abstract string Kind { get; }

    /// <summary>What a page that only shows something takes.</summary>
    public const string Reading = "GET, HEAD";

    public const string JsonType = "application/json";

    public const string PatchType = "application/merge-patch+json";

    public const string FormType = "application/x-www-form-urlencoded";

    /// <summary>The methods that the page takes (RFC 9110 section 10.2.1).</summary>
    public virtual string Methods => Reading;

    /// <summary>Whether the page takes a method: each takes what only reads.</summary>
    public bool Allows(string method) => method is "GET" or "HEAD" || Methods.Split(", ").Contains(method);

    /// <summary>Whether a method takes a body of JSON, or of a form.</summary>
    public virtual bool Takes(string method, bool isJson) => false;

    /// <summary>The media types that a method takes.</summary>
    public string Accepts(string method) =>
        string.Join(
            ", ",
            new[]
            {
                Takes(method, false) ? FormType : null,
                Takes(method, true)
                    ? method == "PATCH"
                        ? $"{PatchType}, {JsonType}"
                        : JsonType
                    : null,
            }.OfType<string>()
        );

    /// <summary>Every link that stands on the page.</summary>
    public abstract IReadOnlyList<PageLink> Links { get; }

    /// <summary>Whether it shows pictures whose place the app file does not say.</summary>
    public virtual bool LacksPictures => false;

    /// <summary>Where addresses to try it with come from; null if there is nothing to take them from.</summary>
    public SamplePlan? Samples { get; init; }
}
