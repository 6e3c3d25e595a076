using Jexa.Core.Views;
using Markdig;
using Markdig.Renderers.Html;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;

namespace Jexa.Service.Html;

/// <summary>
/// Markdown (CommonMark) as HTML that is safe to stand on a page: markup of HTML in it is shown, not obeyed; links lead to
/// pages by name (<c>page:bridges</c>), to paths, to the web or to mail; headings rank below the page's own.
/// </summary>
internal static class MarkdownText
{
    private const string PageScheme = "page:";

    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().UsePipeTables().Build();

    public static string ToHtml(string markdown, PageFrame frame)
    {
        var document = Markdown.Parse(markdown, Pipeline);
        foreach (var node in document.Descendants().ToList())
        {
            switch (node)
            {
                case HeadingBlock heading:
                    heading.Level = Math.Min(6, heading.Level + 1);
                    break;
                case LinkInline link:
                    link.Url = Safe(link.GetDynamicUrl?.Invoke() ?? link.Url, frame);
                    link.GetDynamicUrl = null;
                    if (link.Url.Length == 0) Unwrap(link);
                    break;
                case AutolinkInline auto when !auto.IsEmail && !IsOfWeb(auto.Url):
                    auto.ReplaceBy(new LiteralInline(auto.Url));
                    break;
            }
        }

        return document.ToHtml(Pipeline);
    }

    /// <summary>A link that leads nowhere safe is the words it stood on.</summary>
    private static void Unwrap(LinkInline link)
    {
        while (link.FirstChild is { } child)
        {
            child.Remove();
            link.InsertBefore(child);
        }

        link.Remove();
    }

    /// <summary>Whether an address is one of the web, and leads there when followed.</summary>
    public static bool IsOfWeb(string address) => Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" && uri.UserInfo.Length == 0;

    private static string Safe(string? url, PageFrame frame)
    {
        if (url is null) return "";
        if (url.StartsWith(PageScheme, StringComparison.Ordinal)) return frame.Addresses.GetValueOrDefault(url[PageScheme.Length..], "");
        if (IsOfWeb(url) || url.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) || url.StartsWith('#')) return url;
        return url.StartsWith('/') && !url.StartsWith("//", StringComparison.Ordinal) && !url.Contains('\\') ? url : "";
    }
}
