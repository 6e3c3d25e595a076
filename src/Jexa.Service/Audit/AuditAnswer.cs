using AngleSharp.Dom;
using AngleSharp.Html.Parser;

namespace Jexa.Service.Audit;

/// <summary>An answer of the application that is audited.</summary>
/// <param name="Address">The address that was answered in the end, after redirects.</param>
/// <param name="Status">0 if there is no answer.</param>
/// <param name="Trouble">Why there is no answer, or none that can be read; null if there is one.</param>
internal sealed record AuditAnswer(Uri Asked, Uri Address, int Status, string Body, IDocument? Page, string? Trouble)
{
    /// <summary>What came, as a page if it is one.</summary>
    /// <param name="type">The media type, in lower case; empty if there is none.</param>
    public static AuditAnswer Of(Uri asked, Uri address, int status, string body, string type)
    {
        var isPage = type is "text/html" or "application/xhtml+xml" or "";
        var page = isPage ? new HtmlParser().ParseDocument(body) : null;
        return new AuditAnswer(asked, address, status, body, page, isPage ? null : $"it is {type}, not HTML")
        {
            IsFile = !isPage && status == 200,
            Type = type,
        };
    }

    /// <summary>There is no answer.</summary>
    public static AuditAnswer Nothing(Uri asked, string trouble) => new(asked, asked, 0, "", null, trouble);

    /// <summary>What is wrong with an answer that fails, in a few words.</summary>
    public string Why => Trouble ?? $"status {Status}";

    /// <summary>Where a redirect leads, as it is written; null for none.</summary>
    public string? Location { get; init; }

    /// <summary>Whether nothing came in the time that there was.</summary>
    public bool IsSilent { get; init; }

    /// <summary>Whether it says nothing of the application: it was not asked for, or was one request too many.</summary>
    public bool IsNone => Status == 429 || Trouble == RobotsRules.IsForbidden;

    /// <summary>Whether it is a file, not a page.</summary>
    public bool IsFile { get; init; }

    /// <summary>Whether it was reached by a redirect.</summary>
    public bool IsLedOn => Asked != Address;

    /// <summary>From the request to the end of the answer; for a drawn page, until it was at rest.</summary>
    public TimeSpan Took { get; init; }

    /// <summary>The media type, in lower case; empty if there is none.</summary>
    public string Type { get; init; } = "";

    /// <summary>How long the application asks to wait before the next request.</summary>
    public TimeSpan Wait { get; init; }

    /// <summary>What a browser told while it drew the page; null if none did.</summary>
    public DrawnNotes? Drawn { get; init; }
}
