using AngleSharp.Dom;
using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Examines a list itself: its links, its rows, and its next window.</summary>
internal sealed class ListExam(IPageAsker asker, AuditNotes notes)
{
    /// <summary>Links that no program has filled in, or that only work where the page was made.</summary>
    public void Links(IDocument page, Uri address, IReadOnlyList<LinkGroup> groups)
    {
        foreach (var group in groups)
        foreach (var row in group.Rows.Where(row => IsUnfilled(row.Id)))
            notes.Tell(
                ProofCodes.AuditBrokenLink,
                group.Pattern,
                "link",
                row.Address,
                $"the ID is “{row.Id}” on “{row.LinkText}”"
            );
        foreach (var link in ListReading.LocalLinks(page, address).Distinct().Take(5))
            notes.Tell(
                ProofCodes.AuditBrokenLink,
                "list",
                "link",
                address,
                $"a link leads to {link}: only where the page was made"
            );
        var about = PageText.Of(page.Body!);
        if (SpoiltText.Of(about) is { } spoilt)
            notes.Tell(ProofCodes.AuditSpoiltText, "list", "list", address, $"the list says “{AuditNotes.Cut(spoilt)}”");
    }

    public static bool IsUnfilled(string id) =>
        id.Length == 0
        || id is "undefined" or "null" or "None" or "NaN" or "[object Object]"
        || id.Contains("{{")
        || id.Contains("${");

    /// <summary>Rows that stand there more than once, though nearly all do not.</summary>
    public void Twice(LinkGroup group, IDocument page, Uri address)
    {
        var again = ListReading.RowsAgain(page, address, group);
        if (again.Count > 0 && again.Count <= Math.Max(1, group.Rows.Count / 4))
            notes.Tell(
                ProofCodes.AuditRowTwice,
                group.Pattern,
                "list",
                again[0].Address,
                $"“{again[0].LinkText}” stands there more than once, with the same words"
            );
    }

    /// <summary>Links of another form among those of the rows: do they lead anywhere?</summary>
    public async Task OddAsync(LinkGroup group, IDocument page, Uri address, CancellationToken cancellation)
    {
        foreach (var link in ListReading.OddLinks(page, address, group).Take(3))
        {
            var answer = await asker.GetAsync(link, cancellation);
            notes.Count("odd links");
            if (!answer.IsNone && answer.Status is (0 or >= 400))
                notes.Dead(group, "odd link", answer);
        }
    }

    /// <summary>The next window of the list: other rows, at other addresses. Gives its rows; null if there are none.</summary>
    public async Task<(Uri Address, LinkGroup Rows)?> PagingAsync(Uri? next, LinkGroup group, CancellationToken cancellation)
    {
        if (next is null)
            return null;
        var answer = await asker.GetAsync(next, cancellation);
        notes.Count("windows of the list");
        if (answer.IsNone)
            return null;
        if (answer.Page is not { } second || answer.Status >= 400)
        {
            notes.Tell(ProofCodes.AuditPaging, "list", "next", next, answer.Why);
            return null;
        }

        if (ListReading.Groups(second, answer.Address).FirstOrDefault(one => one.IsLike(group)) is not { } rows)
            return null;
        return Compare(group, rows, next) ? (next, rows) : null;
    }

    /// <summary>Whether a window is another one than the first, with addresses of its own.</summary>
    private bool Compare(LinkGroup group, LinkGroup rows, Uri next)
    {
        var known = group.Rows.GroupBy(row => row.Address).ToDictionary(one => one.Key, one => one.First());
        var again = rows.Rows.Where(row => known.ContainsKey(row.Address)).ToList();
        if (again.Count == 0 || again.Count < rows.Rows.Count / 2)
            return true;
        var same = again.Count(row => row.Facts.Count > 0 && row.Facts.All(fact => known[row.Address].Facts.Contains(fact)));
        if (same >= again.Count / 2)
            notes.Tell(ProofCodes.AuditPaging, "list", "next", next, $"{again.Count} of its rows are those of the page before");
        else
            notes.Tell(
                ProofCodes.AuditPositionAsId,
                group.Pattern,
                "next",
                again[0].Address,
                "the same address stands in another row on the next page: a position is used as an ID"
            );
        return false;
    }

    /// <summary>Whether a record that was reached from the second window leads back to it.</summary>
    public async Task WayBackAsync(Uri list, Uri window, LinkGroup rows, CancellationToken cancellation)
    {
        var row = rows.Rows[0];
        var answer = await asker.GetAfterAsync(window, row.Address, cancellation);
        if (answer.Page is not { } page || answer.Status != 200)
            return;
        var back = RecordPageReading.WaysBack(page, answer.Address, list);
        if (back.Count > 0 && back.All(way => way.PathAndQuery == list.PathAndQuery) && window.PathAndQuery != list.PathAndQuery)
            notes.Tell(
                ProofCodes.AuditWayBack,
                rows.Pattern,
                "way back",
                row.Address,
                $"reached from {RouteAddress.Shown(window)}, it leads back to {RouteAddress.Shown(back[0])}",
                isCertain: false
            );
    }
}
