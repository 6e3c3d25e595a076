using Jexa.Core.Addresses;
using Jexa.Core.Sites;

namespace Jexa.Core.Visits;

/// <summary>The pages whose paths fit an address. The same for visits and for addresses that are read without loading.</summary>
/// <param name="Pages">Those that share the path; none for a kind that has no page.</param>
internal readonly record struct PageMatch(MatchKind Kind, IReadOnlyList<Page> Pages)
{
    /// <param name="isSafe">
    /// The request only reads. A trailing slash then leads to the page without it; a change is never sent on, so that it means
    /// the page that has its path exactly, and the one without the slash only if there is none.
    /// </param>
    public static PageMatch Of(Site site, RequestTarget target, bool isSafe)
    {
        if (target.Fault == TargetFault.OutsideMount)
            return Nothing(MatchKind.OutsideMount);
        if (target.Fault != TargetFault.None)
            return Nothing(MatchKind.NoAddress);
        if (target.IsReserved)
            return Nothing(MatchKind.Reserved);
        var depth = target.Segments.Length;
        var pages = site.Paths.Match(target, depth);
        if (depth == 0 && pages.Count == 0 && isSafe && site.Home?.Head.AddressWithoutParameters is not null)
            return Nothing(MatchKind.Home);
        if (target.HasOneTrailingSlash && (isSafe || pages.Count == 0))
        {
            var slashless = site.Paths.Match(target, depth - 1);
            if (isSafe && slashless.Count > 0)
                return new PageMatch(MatchKind.TrailingSlash, slashless);
            if (!isSafe)
                pages = slashless;
        }

        if (site.Waiting.Count == 0)
            return new PageMatch(pages.Count == 0 ? MatchKind.NoPage : MatchKind.Page, pages);
        var served = pages.Any(page => page is WaitingPage) ? [.. pages.Where(page => page is not WaitingPage)] : pages;
        return served.Count > 0 ? new PageMatch(MatchKind.Page, served)
            : pages.Count > 0 ? new PageMatch(MatchKind.Waiting, pages)
            : Nothing(depth == 0 ? MatchKind.Waiting : MatchKind.NoPage);
    }

    private static PageMatch Nothing(MatchKind kind) => new(kind, []);
}
