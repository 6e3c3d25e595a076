using Jexa.Core.Addresses;
using Jexa.Core.Sites;

namespace Jexa.Core.Serving;

/// <summary>Explains a match afterwards, page by page, for readers of a trace.</summary>
public static class Candidates
{
    private const int Most = 12;

    /// <summary>The page that matched, then the nearest ones, each with its reason.</summary>
    public static IReadOnlyList<Candidate> Explain(Site site, RequestTarget target, Page? won)
    {
        if (target.Fault != TargetFault.None)
            return [];
        return
        [
            .. site
                .Pages.Select(page => (page, agreed: Agreed(page.Head.Template, target)))
                .OrderByDescending(candidate => candidate.page == won)
                .ThenByDescending(candidate => candidate.agreed)
                .ThenBy(candidate => Math.Abs(candidate.page.Head.Template.Segments.Count - target.Segments.Length))
                .Take(Most)
                .Select(candidate => new Candidate(
                    candidate.page,
                    candidate.page == won,
                    Reason(candidate.page, candidate.agreed, target, won)
                )),
        ];
    }

    private static string Reason(Page page, int agreed, RequestTarget target, Page? won)
    {
        var template = page.Head.Template;
        var segments = target.HasTrailingSlash && page == won ? target.Segments.Length - 1 : target.Segments.Length;
        if (page == won && agreed < Math.Min(template.Segments.Count, segments))
            return "A former path of this page agrees.";
        if (page == won)
            return template.Segments.Count < target.Segments.Length
                ? "Every segment agrees once the trailing slash is gone."
                : "Every segment agrees.";
        if (agreed < Math.Min(template.Segments.Count, segments))
            return $"Segment {agreed + 1} must be “{Shown(template.Segments[agreed])}”; the address has “{target.Text(agreed)}”.";
        if (template.Segments.Count != segments)
            return $"The path has {Count(template.Segments.Count)}; the address has {segments}.";
        var lacking = template.QueryParameters.Where(name => !target.Query.Any(pair => pair.Name == name)).ToList();
        if (lacking.Count > 0)
            return $"The address lacks {string.Join(" and ", lacking)}, and another page of this path lacks less.";
        return won is not null && template.SharesPathWith(won.Head.Template)
            ? "Another page of this path takes more of the address’s parameters."
            : "Another page agrees more closely: a literal goes before a parameter.";
    }

    /// <summary>The number of segments that agree, from the left.</summary>
    private static int Agreed(PathTemplate template, RequestTarget target)
    {
        var agreed = 0;
        while (
            agreed < template.Segments.Count
            && agreed < target.Segments.Length
            && Agrees(template.Segments[agreed], target, agreed)
        )
            agreed++;
        return agreed;
    }

    private static bool Agrees(SegmentPattern pattern, RequestTarget target, int at)
    {
        var text = target.Text(at);
        if (pattern.Literal is { } literal)
            return !target.Segments[at].IsBad && text.SequenceEqual(literal);
        return text.Length >= pattern.Prefix.Length + pattern.Suffix.Length
            && text.StartsWith(pattern.Prefix, StringComparison.Ordinal)
            && text.EndsWith(pattern.Suffix, StringComparison.Ordinal);
    }

    private static string Shown(SegmentPattern pattern) =>
        pattern.Literal ?? $"{pattern.Prefix}{{{pattern.Parameter}}}{pattern.Suffix}";

    private static string Count(int segments) => segments == 1 ? "1 segment" : $"{segments} segments";
}
