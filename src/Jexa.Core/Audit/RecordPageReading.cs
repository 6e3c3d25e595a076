using System.Text.RegularExpressions;
using AngleSharp.Dom;

namespace Jexa.Core.Audit;

/// <summary>What somebody's page of one record says of itself.</summary>
public static partial class RecordPageReading
{
    /// <summary>
    /// The words of the page that are about its record: without menus, and without lists of other records.
    /// </summary>
    /// <param name="group">The links of the list that it was reached from.</param>
    public static string TextOf(IDocument page, Uri address, LinkGroup group)
    {
        if (page.Body is not { } body)
            return "";
        foreach (var around in body.QuerySelectorAll("nav, footer, [role=navigation]").ToList())
            around.Remove();
        foreach (var others in ListReading.Groups(page, address).Where(one => one.IsLike(group) && one.Rows.Count >= 3))
        foreach (var link in body.QuerySelectorAll("a[href]").Where(link => Leads(link, address, others)).ToList())
            RowOf(link).Remove();
        return $"{page.Title} {PageText.Of(body)}";
    }

    /// <summary>The words of a page, leaf by leaf. Those that the pages of all records have are their frame.</summary>
    public static IReadOnlySet<string> Frame(IDocument page) =>
        page.Body is { } body
            ? ListReading.FactsOf(body).Where(fact => fact.Kind == FactKind.Words).Select(fact => fact.Text).ToHashSet()
            : new HashSet<string>();

    /// <summary>The pictures on the same origin, without those of menus, heads and feet of the page.</summary>
    public static IReadOnlyList<Uri> PicturesOf(IDocument page, Uri address) =>
        [
            .. page.QuerySelectorAll("img[src]")
                .Where(picture => picture.Closest("nav, header, footer") is null)
                .Select(picture => ListReading.TargetOf(picture.GetAttribute("src")!, address))
                .OfType<Uri>()
                .Distinct(),
        ];

    /// <summary>The links of a record's page that lead to the list, without those of menus, heads and feet of the page.</summary>
    public static IReadOnlyList<Uri> WaysBack(IDocument page, Uri address, Uri list) =>
        [
            .. page.QuerySelectorAll("a[href]")
                .Where(link => link.Closest("nav, header, footer, [role=navigation]") is null)
                .Select(link => ListReading.TargetOf(link.GetAttribute("href")!, address))
                .OfType<Uri>()
                .Where(target => target.AbsolutePath == list.AbsolutePath),
        ];

    /// <summary>Whether a text says that something was not found.</summary>
    public static bool SaysNotFound(string text) => NotFound().IsMatch(FactReading.Plain(text));

    /// <summary>Whether a text asks to sign in.</summary>
    public static bool AsksToSignIn(IDocument page) => page.QuerySelector("input[type=password]") is not null;

    /// <summary>What an answer shows that no visitor should see; null if nothing.</summary>
    public static string? InsideOf(string body) => Inside().Match(body) is { Success: true } match ? match.Value : null;

    private static bool Leads(IElement link, Uri address, LinkGroup group) =>
        ListReading.TargetOf(link.GetAttribute("href")!, address) is { } target
        && group.Rows.Any(row => row.Address.AbsoluteUri == target.AbsoluteUri);

    private static IElement RowOf(IElement link)
    {
        for (var at = link; at.ParentElement is not null; at = at.ParentElement)
            if (at.LocalName is "tr" or "li" or "article")
                return at;
        return link;
    }

    [GeneratedRegex(
        @"\b(?:not found|no such|does ?n[o']t exist|could ?n[o']t be found|unknown|invalid|"
            + @"no (?:record|entry|item|results?)|404|nicht gefunden|"
            + @"existiert nicht|ungültig|introuvable|n'existe pas|no encontrad[oa]|no existe|non trovat[oa])\b"
    )]
    private static partial Regex NotFound();

    [GeneratedRegex(
        @"Traceback \(most recent call last\)|\bat [\w.$]+\([\w.]+\.(?:java|cs|kt):\d+\)|   at [\w.]+\(|Fatal error: |"
            + @"Uncaught \w*(?:Error|Exception)|SQLSTATE\[|syntax error at or near|near ""[^""]*"": syntax error|"
            + @"You have an error in your SQL syntax|ORA-\d{5}|sqlite3?\.\w*Error|PDOException|ActiveRecord::|DBD::\w+|"
            + @"SELECT .{1,80} FROM \w+ WHERE|Undefined (?:array key|index|variable)"
    )]
    private static partial Regex Inside();
}
