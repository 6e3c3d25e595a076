using System.Buffers;
using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using System.Text.Unicode;
using Jexa.Core.Views;
using Markdig;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;
using Microsoft.Extensions.Caching.Memory;

namespace Jexa.Service.Html;

/// <summary>
/// Markdown (CommonMark) as safe HTML. HTML in it is shown as text. Links lead to pages by name (<c>page:bridges</c>), to paths,
/// to the web or to mail. Headings rank below the page's own. <para> A text that is too long, too deeply nested, or so full of
/// markup that reading it would take long is shown as plain text, so that no text breaks a page. Results are kept as long as the
/// site is served. </para>
/// </summary>
internal static class MarkdownText
{
    private const string PageScheme = "page:";

    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().UsePipeTables().Build();

    /// <summary>Longer texts are shown as plain text, in characters.</summary>
    private const int MaxLength = 200_000;

    /// <summary>
    /// The most characters with a meaning, in a paragraph and in all. The time grows with their square (10,000 in one paragraph
    /// take 0.9 s).
    /// </summary>
    private const int MaxMarksInParagraph = 1000;
    private const int MaxMarks = 8000;

    /// <summary>The most characters of texts and results kept for one site.</summary>
    private const long MostKept = 8 * 1024 * 1024;

    private static readonly SearchValues<char> Marks = SearchValues.Create("*_`[]<>!|~\\&#-+");

    /// <summary>Results, by site.</summary>
    private static readonly ConditionalWeakTable<PageFrame, MemoryCache> Kept = [];

    public static string ToHtml(string markdown, PageFrame frame)
    {
        var kept = Kept.GetValue(frame, _ => new MemoryCache(new MemoryCacheOptions { SizeLimit = MostKept }));
        if (kept.TryGetValue(markdown, out string? known))
            return known!;
        var html = Make(markdown, frame);
        return kept.Set(markdown, html, new MemoryCacheEntryOptions { Size = markdown.Length + html.Length });
    }

    private static string Make(string markdown, PageFrame frame)
    {
        if (markdown.Length > MaxLength || HasTooManyMarks(markdown))
            return Plain(markdown);
        try
        {
            return Read(markdown, frame);
        }
        catch (Exception unreadable) when (unreadable is not OutOfMemoryException)
        {
            // The library gives up if a text is nested too deeply.
            return Plain(markdown);
        }
    }

    private static string Plain(string text) => $"<p class=\"long\">{HtmlEncoder.Create(UnicodeRanges.All).Encode(text)}</p>\n";

    private static bool HasTooManyMarks(string markdown)
    {
        var (all, inParagraph) = (0, 0);
        foreach (var line in markdown.AsSpan().EnumerateLines())
        {
            if (line.IsWhiteSpace())
                inParagraph = 0;
            var left = line;
            while (left.IndexOfAny(Marks) is >= 0 and var at)
            {
                (all, inParagraph) = (all + 1, inParagraph + 1);
                left = left[(at + 1)..];
            }

            if (all > MaxMarks || inParagraph > MaxMarksInParagraph)
                return true;
        }

        return false;
    }

    private static string Read(string markdown, PageFrame frame)
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
                    if (link.Url.Length == 0)
                        Unwrap(link);
                    break;
                case AutolinkInline auto when !auto.IsEmail && !IsOfWeb(auto.Url):
                    auto.ReplaceBy(new LiteralInline(auto.Url));
                    break;
            }
        }

        return document.ToHtml(Pipeline);
    }

    /// <summary>If a link leads nowhere safe, only its text is shown.</summary>
    private static void Unwrap(LinkInline link)
    {
        while (link.FirstChild is { } child)
        {
            child.Remove();
            link.InsertBefore(child);
        }

        link.Remove();
    }

    /// <summary>Whether an address is a web address, and leads there if followed.</summary>
    public static bool IsOfWeb(string address) =>
        Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" && uri.UserInfo.Length == 0;

    private static string Safe(string? url, PageFrame frame)
    {
        if (url is null)
            return "";
        if (url.StartsWith(PageScheme, StringComparison.Ordinal))
            return frame.Addresses.GetValueOrDefault(url[PageScheme.Length..], "");
        if (IsOfWeb(url) || url.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) || url.StartsWith('#'))
            return url;
        return url.StartsWith('/') && !url.StartsWith("//", StringComparison.Ordinal) && !url.Contains('\\') ? url : "";
    }
}
