using Jexa.Core.Bodies;

namespace Jexa.Core.Sites;

/// <summary>A compiled page. Its addresses are matched, read and built by one template.</summary>
public abstract class Page(PageHead head)
{
    /// <summary>The page's name in the app file.</summary>
    public string Name => Head.Name;

    /// <summary>What links need to know of the page.</summary>
    public PageHead Head { get; } = head;

    /// <summary>The record kind it shows; null on a text page.</summary>
    public SiteRecord? Record => Head.Kind;

    /// <summary>The parameters of the page's path and query string.</summary>
    public IReadOnlyList<PageParameter> Parameters => Head.Parameters;

    /// <summary>The word of the page's kind in the app file.</summary>
    public virtual string Kind => Head.Definition.Kind.Word;

    /// <summary>The methods of a page that only shows something.</summary>
    public const string Reading = "GET, HEAD";

    /// <summary>The media type of JSON (RFC 8259).</summary>
    public const string JsonType = "application/json";

    /// <summary>The media type of a JSON merge patch (RFC 7396).</summary>
    public const string PatchType = "application/merge-patch+json";

    /// <summary>The media type of an HTML form's body.</summary>
    public const string FormType = "application/x-www-form-urlencoded";

    /// <summary>The methods that the page accepts (RFC 9110 section 10.2.1).</summary>
    public virtual string Methods => Reading;

    /// <summary>Whether the page accepts a method. Every page accepts methods that only read.</summary>
    public bool Allows(string method) => method is "GET" or "HEAD" || Methods.Split(", ").Contains(method);

    /// <summary>Whether the page accepts JSON, or a form, with a method.</summary>
    public virtual bool Takes(string method, bool isJson) => false;

    /// <summary>The media types that the page accepts with a method.</summary>
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

    /// <summary>All links on the page.</summary>
    public abstract IReadOnlyList<PageLink> Links { get; }

    /// <summary>Whether it shows pictures, and the app file does not say where they are.</summary>
    public virtual bool LacksPictures => false;

    /// <summary>The page's own design; null if Jexa designs it.</summary>
    public PageBody? Body { get; set; }

    /// <summary>All rows that it can show, a part of the page each.</summary>
    public IReadOnlyList<RowSet> Rows { get; init; } = [];

    /// <summary>How to find addresses to try it with; null if that is not possible.</summary>
    public SamplePlan? Samples { get; init; }
}
