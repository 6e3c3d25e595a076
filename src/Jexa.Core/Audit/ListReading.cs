using System.Text.RegularExpressions;
using AngleSharp.Dom;

namespace Jexa.Core.Audit;

/// <summary>
/// Finds in somebody's page the links that lead from rows to records, without knowing how the page was made: links of one form,
/// at one place of the tree, of which each row has one.
/// </summary>
public static partial class ListReading
{
    private const int MostLinks = 100_000;

    /// <summary>The groups of links that may be those of rows, the likeliest first.</summary>
    /// <param name="address">The address of the page.</param>
    public static IReadOnlyList<LinkGroup> Groups(IDocument page, Uri address)
    {
        var links = Links(page, address).Take(MostLinks).ToList();
        return
        [
            .. links
                .GroupBy(link => (Shape(link.Target), Place(link.Element)))
                .SelectMany(group => Split([.. group]))
                .Select(Of)
                .OfType<LinkGroup>()
                .Where(group => group.Addresses >= 2)
                // A menu says nothing but its links. One address for each row beats all; then the most rows, then those that say
                // most.
                .OrderByDescending(IsTelling)
                .ThenByDescending(group => group.Addresses == group.Rows.Count)
                .ThenByDescending(group => group.Addresses)
                .ThenByDescending(group => group.Rows.Sum(row => row.Facts.Count)),
        ];
    }

    /// <summary>Whether the rows say more than their links, so that records can be told by it.</summary>
    public static bool IsTelling(LinkGroup group) => group.Rows.Average(row => row.Facts.Count) >= 2;

    /// <summary>Links of another form that stand where those of a group do: few, and odd among so many.</summary>
    public static IReadOnlyList<Uri> OddLinks(IDocument page, Uri address, LinkGroup group)
    {
        var shape = Shape(group.Rows[0].Address);
        var odd = Links(page, address)
            .Where(link => Shape(link.Target) != shape && Place(link.Element) == group.Place)
            .Select(link => link.Target)
            .Distinct()
            .ToList();
        return odd.Count <= Math.Max(1, group.Rows.Count / 5) ? odd : [];
    }

    /// <summary>The rows of a group that stand in the page more than once, with the same words.</summary>
    public static IReadOnlyList<ListRow> RowsAgain(IDocument page, Uri address, LinkGroup group)
    {
        var known = group.Rows.GroupBy(row => (row.Address, row.LinkText)).ToDictionary(one => one.Key, one => one.First());
        var links = Links(page, address)
            .Where(link => known.ContainsKey((link.Target, link.Element.TextContent.Trim())))
            .ToList();
        var elements = links.Select(link => link.Element).ToHashSet();
        return
        [
            .. links
                .GroupBy(link =>
                    (
                        link.Target,
                        Text: link.Element.TextContent.Trim(),
                        Row: PageText.Of(RowOf(link.Element, elements)),
                        Place: Place(link.Element)
                    )
                )
                .Where(same => same.Count() > 1)
                .Select(same => known[(same.Key.Target, same.Key.Text)]),
        ];
    }

    /// <summary>What an element says, leaf by leaf.</summary>
    public static IReadOnlyList<Fact> FactsOf(IElement row)
    {
        var facts = new Dictionary<string, Fact>();
        foreach (var leaf in Leaves(row))
        {
            var plain = FactReading.Plain(leaf);
            var dates = FactReading.Dates(plain).Distinct().ToList();
            if (dates.Count == 1)
                facts.TryAdd(dates[0], new Fact(FactKind.Date, dates[0], leaf));
            else if (OnlyNumber().IsMatch(plain))
                foreach (var number in FactReading.Numbers(plain).Take(1))
                    facts.TryAdd(number, new Fact(FactKind.Number, number, leaf));
            else if (dates.Count == 0 && plain.Length is >= 3 and <= 200 && plain.Any(char.IsLetter))
                facts.TryAdd(plain, new Fact(FactKind.Words, plain, leaf));
        }

        return [.. facts.Values];
    }

    /// <summary>Links that can only work where the page was made: files, and this very machine.</summary>
    public static IEnumerable<string> LocalLinks(IDocument page, Uri address) =>
        page.QuerySelectorAll("a[href]")
            .Select(link => link.GetAttribute("href")!.Trim())
            .Where(written =>
                Uri.TryCreate(RouteAddress.Unfold(address), written, out var target)
                && (target.IsFile || (target.IsLoopback && !address.IsLoopback))
            );

    /// <summary>Whether a text or an address looks as if a visit there would change or end something.</summary>
    public static bool LooksDangerous(string text) => Dangerous().IsMatch(text);

    /// <summary>The next page of a list; null if the page names none.</summary>
    public static Uri? Next(IDocument page, Uri address) =>
        page.QuerySelectorAll("a[href], link[rel~=next][href]")
            .Where(link =>
                link.GetAttribute("rel")?.Contains("next") == true || NextWords().IsMatch(FactReading.Plain(link.TextContent))
            )
            .Select(link => TargetOf(link.GetAttribute("href")!, address))
            .FirstOrDefault(target => target is not null && target != address);

    private static IEnumerable<(IElement Element, Uri Target)> Links(IDocument page, Uri address)
    {
        foreach (var element in page.QuerySelectorAll("a[href], [data-href], [onclick]"))
        {
            var written = element.GetAttribute("href")
                ?? element.GetAttribute("data-href")
                ?? (
                    Going().Match(element.GetAttribute("onclick") ?? "") is { Success: true } going ? going.Groups[1].Value : null
                );
            if (
                written is null
                || IsAround(element)
                || TargetOf(written, address) is not { } target
                || target.GetLeftPart(UriPartial.Path) == address.GetLeftPart(UriPartial.Path) && IsControl(target)
                || LooksDangerous(target.PathAndQuery)
                || LooksDangerous(element.TextContent)
            )
                continue;
            yield return (element, target);
        }
    }

    /// <summary>The target of a link on the same origin, without a fragment that names no page; null for others.</summary>
    internal static Uri? TargetOf(string written, Uri address) =>
        Uri.TryCreate(RouteAddress.Unfold(address), written.Trim(), out var target)
        && target.Scheme is "http" or "https"
        && target.Authority == address.Authority
            ? RouteAddress.Fold(target)
            : null;

    /// <summary>Whether an element is a menu, a head of a table, or a footer rather than a part of the list.</summary>
    private static bool IsAround(IElement element)
    {
        for (var at = element; at is not null && at.LocalName != "body"; at = at.ParentElement)
            if (
                at.LocalName is "nav" or "thead" or "footer" or "select"
                || (at.LocalName == "th" && (at.GetAttribute("scope") is "col" or "colgroup" || IsHead(at)))
                || at.GetAttribute("role") is "navigation" or "menu" or "menubar" or "contentinfo"
                || Around().IsMatch($"{at.ClassName} {at.Id}")
            )
                return true;
        return false;
    }

    /// <summary>Whether a cell stands in a row of headings only.</summary>
    private static bool IsHead(IElement cell) => cell.ParentElement?.Children.All(other => other.LocalName == "th") == true;

    private static bool IsControl(Uri target) => IdPart.Pairs(target).Any(pair => Control().IsMatch(pair.Name));

    private static string Shape(Uri target) =>
        $"{IdPart.Segments(target).Length} {string.Join(',', IdPart.Pairs(target).Select(pair => pair.Name))}";

    /// <summary>The tags and classes from the element up.</summary>
    private static string Place(IElement element)
    {
        var place = new List<string>();
        for (var at = element; at is not null && at.LocalName != "body"; at = at.ParentElement)
            place.Add($"{at.LocalName}.{Steady(at.ClassName)}");
        return string.Join('>', place);
    }

    /// <summary>Classes without those that mark one row: odd ones, the current one, numbered ones.</summary>
    private static string Steady(string? classes) =>
        string.Join(
            '.',
            (classes ?? "")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Where(name => !Marking().IsMatch(name))
                .Order(StringComparer.Ordinal)
        );

    /// <summary>
    /// Links of one form and place that lead to several kinds of records, such as <c>/bridges/7</c> and <c>/districts/x</c>: one
    /// part of their addresses has few values, which are words.
    /// </summary>
    private static IEnumerable<IReadOnlyList<(IElement Element, Uri Target)>> Split(
        IReadOnlyList<(IElement Element, Uri Target)> links
    )
    {
        var parts = Parts(links[0].Target)
            .Where(part =>
            {
                var values = links.Select(link => part.Of(link.Target) ?? "").Distinct().ToList();
                return values.Count > 1
                    && values.Count <= links.Count / 4
                    && values.TrueForAll(value => !value.Any(char.IsAsciiDigit));
            })
            .Take(2)
            .ToList();
        // The part with fewer values is the kind of record; the other one is an ID that many rows share.
        return
            parts.Count == 0
            || Parts(links[0].Target).Count(part => links.Select(link => part.Of(link.Target)).Distinct().Count() > 1) < 2
            ? [links]
            : links
                .GroupBy(link =>
                    parts.MinBy(part => links.Select(one => part.Of(one.Target)).Distinct().Count())!.Of(link.Target)
                )
                .Select(group => (IReadOnlyList<(IElement Element, Uri Target)>)[.. group]);
    }

    /// <summary>All parts of an address that an ID can stand in.</summary>
    private static IEnumerable<IdPart> Parts(Uri address) =>
        Enumerable
            .Range(0, IdPart.Segments(address).Length)
            .Select(segment => new IdPart(segment, null))
            .Concat(IdPart.Pairs(address).Select(pair => new IdPart(-1, pair.Name)));

    private static LinkGroup? Of(IReadOnlyList<(IElement Element, Uri Target)> links)
    {
        if (Varying(links.Select(link => link.Target).ToList()) is not { } part)
            return null;
        var elements = links.Select(link => link.Element).ToHashSet();
        var rows = links
            .Select(link => new ListRow(
                link.Target,
                part.Of(link.Target) ?? "",
                link.Element.TextContent.Trim(),
                FactsOf(RowOf(link.Element, elements))
            ))
            .DistinctBy(row => (row.Address, row.LinkText))
            .ToList();
        var first = part.With(links[0].Target, "{…}");
        return new LinkGroup(Uri.UnescapeDataString(first.PathAndQuery), part, rows) { Place = Place(links[0].Element) };
    }

    /// <summary>The greatest element around a link that has no other link of its group.</summary>
    private static IElement RowOf(IElement link, HashSet<IElement> group)
    {
        var row = link;
        while (
            row.ParentElement is { LocalName: not ("body" or "html" or "table" or "tbody" or "main") } parent
            && parent.QuerySelectorAll("*").Count(group.Contains) == 1
        )
            row = parent;
        return row;
    }

    /// <summary>The part of the addresses that differs most from one to the next; null if none does.</summary>
    private static IdPart? Varying(List<Uri> targets)
    {
        return Parts(targets[0])
            .Select(part => (Part: part, Values: targets.Select(part.Of).Distinct().ToList()))
            .Where(one => one.Values.Count > 1)
            .OrderByDescending(one => one.Values.Count)
            // Of two that differ alike, the ID is the shorter: the other may say where the link stands, or carry a name.
            .ThenBy(one => one.Values.Average(value => value?.Length ?? 0))
            .Select(one => one.Part)
            .FirstOrDefault();
    }

    /// <summary>The texts of the elements that hold no other element with text.</summary>
    private static IEnumerable<string> Leaves(IElement row)
    {
        foreach (var element in row.QuerySelectorAll("*").Prepend(row))
        {
            if (element.LocalName is "script" or "style" or "option" or "template")
                continue;
            var own = string.Concat(element.ChildNodes.OfType<IText>().Select(text => text.Data)).Trim();
            if (own.Length > 0)
                yield return own;
            if (element.LocalName == "time" && element.GetAttribute("datetime") is { } moment)
                yield return moment;
        }
    }

    [GeneratedRegex(@"^[^\p{L}\d]*[-+]?\d[\d.,'\u00a0\u202f ]*\p{L}{0,3}[^\p{L}\d]*$")]
    private static partial Regex OnlyNumber();

    [GeneratedRegex(
        @"\b(?:delete|remove|destroy|drop|logout|log-?out|sign-?out|signoff|undo|revert|"
            + @"cancel|unsubscribe|purge|reset|löschen|abmelden|supprimer|borrar|elimina)\b",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Dangerous();

    [GeneratedRegex(
        @"menu|navbar|navigation|breadcrumb|crumbs|pager|paginat|paging|"
            + @"footer|toolbar|sidebar|(?:^|[\s_-])(?:nav|tabs?)(?:$|[\s_-])",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Around();

    [GeneratedRegex(
        @"^(?:sort|order|orderby|dir|desc|asc|page|p|offset|start|limit|size|per_page|view|lang)$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Control();

    [GeneratedRegex(@"^(?:odd|even|first|last|active|current|selected|new|.*\d.*)$", RegexOptions.IgnoreCase)]
    private static partial Regex Marking();

    [GeneratedRegex(@"(?:location(?:\.href)?\s*=\s*|location\.assign\(\s*)['""]([^'""]+)['""]")]
    private static partial Regex Going();

    [GeneratedRegex(@"^(?:next(?: page)?|older|more|»|›|>|weiter|nächste.*|suivante?|siguiente|successiv.)(?: ?[»›→>])?$")]
    private static partial Regex NextWords();
}
