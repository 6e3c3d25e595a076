using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Checks all pages together: links in texts, pages that nothing leads to, pages without a way back.</summary>
internal sealed class SiteReview(
    AppDefinition definition,
    IReadOnlyDictionary<string, PageHead?> heads,
    IReadOnlyList<Page> pages,
    PathTree<Page> paths,
    Mount mount,
    FindingList findings
)
{
    /// <summary>The pages that the text leads to that is being read.</summary>
    private readonly HashSet<string> _named = [];

    /// <param name="texts">The texts around the pages, with their places.</param>
    /// <param name="first">The home page, the page for unknown addresses, and those in the menu.</param>
    public void Check(IEnumerable<(Written At, string Text)> texts, IEnumerable<string> first)
    {
        foreach (var (at, text) in texts)
            CheckText(at, text);
        var roots = first.Concat(_named).ToList();
        var ways = new Dictionary<string, IReadOnlyList<string>>();
        foreach (var page in pages)
        {
            _named.Clear();
            if (page is TextPage { Head.Definition.Text: { } at } text)
                CheckText(at, text.Source);
            foreach (var block in page.Head.Definition.Related)
                if (block.Notice is { } notice)
                    CheckText(notice, notice.Value);
            ways[page.Name] = [.. LedTo(page), .. _named];
        }

        // Hints come only for files without other findings.
        if (findings.HasErrors)
            return;
        foreach (var page in pages)
            CheckBack(page);
        CheckReached(roots, ways);
    }

    private static IEnumerable<string> LedTo(Page page)
    {
        var said = page.Head.Definition;
        foreach (var link in page.Links)
            yield return link.Plan.Page;
        foreach (var word in new[] { said.Then, said.Ids.MissingPage, said.Beside }.OfType<Written>())
            yield return word.Value;
        if (page is not ListPage list)
            yield break;
        if (list.Add is { } add)
            yield return add.Page.Name;
        foreach (var side in list.Sides)
            yield return side.Target.Name;
    }

    /// <summary>
    /// Reports pages that no way of links leads to, from the menu and the home page on. Of several that lead to one another, the
    /// first list is reported.
    /// </summary>
    private void CheckReached(IEnumerable<string> roots, Dictionary<string, IReadOnlyList<string>> ways)
    {
        var reached = new HashSet<string>();
        foreach (var root in roots.Concat(pages.Where(page => page.Head.Definition.LinkedElsewhere).Select(page => page.Name)))
            Follow(root);
        foreach (var page in pages.OrderBy(page => page is not ListPage))
        {
            // Another program that draws a page may be where people begin.
            if (!reached.Contains(page.Name) && page.Head.DrawnAt is null)
                ReportUnreached(page);
            Follow(page.Name);
        }

        void Follow(string name)
        {
            if (reached.Add(name))
                foreach (var next in ways.GetValueOrDefault(name, []))
                    Follow(next);
        }
    }

    private void ReportUnreached(Page page)
    {
        var said = page.Head.Definition;
        findings.Add(
            FindingCodes.NothingLeadsThere,
            said.Name.At,
            $"No link of this app leads to the page “{page.Name}”.",
            $"Add links: [{{ to: {page.Name} }}] to another page; or say linked: elsewhere if its links "
                + "stand in mails, documents or other programs.",
            found: page.Name,
            expected: "a page that a link leads to"
        );
    }

    private void CheckBack(Page page)
    {
        if (
            page is not DetailPage { Shape.Back: null, Trail.Steps.Count: 0, Record: { } record }
            || page.Head.DrawnAt is not null
            || page.Head.Definition.LinkedElsewhere
        )
            return;
        if (
            page.Links.Any(link =>
                pages.Any(other => other is ListPage && other.Name == link.Plan.Page && other.Record == record)
            )
        )
            return;
        findings.Add(
            FindingCodes.NoWayBack,
            page.Head.Definition.Name.At,
            $"The page “{page.Name}” has no way back: no list of {record.Many} can be opened by itself, and "
                + $"“{record.Name}” has no parent.",
            $"Write a page with list: {record.Name} whose parameters are optional; or name the record's parent.",
            found: page.Name,
            expected: $"a list of {record.Many}, or parent: FIELD"
        );
    }

    /// <summary>Reports links in a Markdown text that lead nowhere. Visitors would see their text without a link.</summary>
    private void CheckText(Written at, string text)
    {
        foreach (var target in TextLinks.Of(text))
        {
            if (target.StartsWith(TextLinks.PageScheme, StringComparison.Ordinal))
                CheckPage(at, target[TextLinks.PageScheme.Length..]);
            else if (target.StartsWith('/') && !target.StartsWith("//", StringComparison.Ordinal))
                CheckPath(at, target);
            else if (!TextLinks.LeadsOutside(target))
            {
                findings.Add(
                    FindingCodes.DeadTextLink,
                    at.At,
                    $"The text has a link to “{target}”, which is no page, path, web or mail address.",
                    "Write page:NAME for a page of this app, a path that begins with /, or a whole address.",
                    found: target,
                    expected: "page:NAME, /path, https://… or mailto:…"
                );
            }
        }
    }

    private void CheckPage(Written at, string name)
    {
        if (!heads.TryGetValue(name, out var target))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, at with { Value = name }, "page", heads.Keys);
            return;
        }

        _named.Add(name);
        if (target is null || target.AddressWithoutParameters is not null)
            return;
        findings.Add(
            FindingCodes.PageNeedsParameters,
            at.At,
            $"The text leads to the page “{name}”, which needs an ID.",
            "Lead to a list.",
            found: TextLinks.PageScheme + name,
            expected: "a page that can be opened by itself"
        );
    }

    private void CheckPath(Written at, string path)
    {
        // Addresses outside of the mount are not known here, and below the reserved segment there are no pages.
        if (
            !path.StartsWith(mount.Text + "/", StringComparison.Ordinal)
            || path.StartsWith($"{mount.Text}/{RequestTarget.ReservedSegment}/", StringComparison.Ordinal)
        )
            return;
        var target = RequestTarget.Read(path.Split('#')[0], mount);
        if (target.Fault == TargetFault.None && target.Segments.Length == 0)
            return;
        var matched = target.Fault == TargetFault.None ? paths.Match(target, target.Segments.Length).ToList() : [];
        foreach (var page in matched)
            _named.Add(page.Name);
        if (matched.Count > 0 || definition.Pages.Any(page => heads.GetValueOrDefault(page.Name.Value) is null))
            return;
        findings.Add(
            FindingCodes.DeadTextLink,
            at.At,
            $"The text has a link to “{path}”, and no page of this app has such an address.",
            "Correct the path; or write page:NAME, which is checked by name.",
            found: path,
            expected: "the address of a page"
        );
    }
}
