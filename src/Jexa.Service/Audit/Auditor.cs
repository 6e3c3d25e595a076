using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>
/// Examines somebody's list and the pages that its rows lead to, as a visitor sees them, whatever they are written in: whether
/// each link leads to the record of its row, and what wrong IDs get. It only reads.
/// </summary>
internal sealed class Auditor(PoliteClient client, AuditLimits limits)
{
    private const int MostGroups = 3;

    private readonly List<AuditFault> _faults = [];
    private readonly List<string> _notSeen = [];
    private readonly Dictionary<string, int> _seen = [];

    public IReadOnlyList<AuditFault> Faults => _faults;

    /// <summary>What was not looked at, and why.</summary>
    public IReadOnlyList<string> NotSeen => _notSeen;

    /// <summary>How much was looked at.</summary>
    public IReadOnlyDictionary<string, int> Seen => _seen;

    /// <summary>Examines a list.</summary>
    public async Task RunAsync(Uri list, CancellationToken cancellation)
    {
        await client.BeginAsync(cancellation);
        var first = await client.GetAsync(list, cancellation);
        if (first.Page is not { } page || first.Status >= 400)
        {
            _notSeen.Add($"{list}: {first.Trouble ?? $"status {first.Status}"}");
            return;
        }

        if (RecordPageReading.AsksToSignIn(page))
            _notSeen.Add($"{list} asks to sign in: give a cookie or header of somebody who is (--header)");
        var groups = ListReading.Groups(page, first.Address).Where(group => group.Rows.Count >= 2).ToList();
        if (groups.Count == 0)
        {
            _notSeen.Add($"{list}: no links from rows to records were found; is it drawn by script?");
            return;
        }

        if (!ListReading.IsTelling(groups[0]))
            _notSeen.Add($"{groups[0].Pattern}: its rows say too little to tell one record from another");
        Broken(groups);
        await PagingAsync(page, first.Address, groups[0], cancellation);
        foreach (var group in groups.Take(MostGroups))
            await GroupAsync(group, isMain: group == groups[0], cancellation);
    }

    /// <summary>IDs that some program forgot to fill in.</summary>
    private void Broken(List<LinkGroup> groups)
    {
        foreach (var group in groups)
        foreach (var row in group.Rows.Where(row => IsUnfilled(row.Id)))
            Tell(FindingCodes.AuditBrokenLink, group.Pattern, "link", row.Address, $"the ID is “{row.Id}” on “{row.LinkText}”");
    }

    private static bool IsUnfilled(string id) =>
        id.Length == 0
        || id is "undefined" or "null" or "None" or "NaN" or "[object Object]"
        || id.Contains("{{")
        || id.Contains("${");

    /// <summary>The next window of the list: other rows, at other addresses.</summary>
    private async Task PagingAsync(AngleSharp.Dom.IDocument page, Uri address, LinkGroup group, CancellationToken cancellation)
    {
        if (ListReading.Next(page, address) is not { } next)
            return;
        var answer = await client.GetAsync(next, cancellation);
        Count("windows of the list");
        if (answer.Page is not { } second || answer.Status >= 400)
        {
            Tell(FindingCodes.AuditPaging, "list", "next", next, answer.Trouble ?? $"the next page is status {answer.Status}");
            return;
        }

        if (ListReading.Groups(second, answer.Address).FirstOrDefault(one => one.IsLike(group)) is not { } rows)
            return;
        var known = group.Rows.GroupBy(row => row.Address).ToDictionary(one => one.Key, one => one.First());
        var again = rows.Rows.Where(row => known.ContainsKey(row.Address)).ToList();
        if (again.Count == 0 || again.Count < rows.Rows.Count / 2)
            return;
        var same = again.Count(row => row.Facts.Count > 0 && row.Facts.All(fact => known[row.Address].Facts.Contains(fact)));
        if (same >= again.Count / 2)
            Tell(FindingCodes.AuditPaging, "list", "next", next, $"{again.Count} of its rows are those of the page before");
        else
            Tell(
                FindingCodes.AuditPositionAsId,
                group.Pattern,
                "next",
                again[0].Address,
                "the same address stands in another row on the next page: a position is used as an ID"
            );
    }

    private async Task GroupAsync(LinkGroup group, bool isMain, CancellationToken cancellation)
    {
        var comparison = new RowComparison(group.Rows);
        var visits = new List<RecordVisit>();
        foreach (var row in Sampled(group.Rows))
        {
            if (client.IsOver is { } why)
            {
                _notSeen.Add($"the rest of {group.Pattern}: {why}");
                break;
            }

            if (await FollowAsync(group, comparison, row, isMain, cancellation) is { } visit)
                visits.Add(visit);
        }

        Alike(group, visits);
        if (isMain && visits.Find(visit => visit.IsRight) is { } right)
            await WrongIdsAsync(group, comparison, right, visits, cancellation);
    }

    /// <summary>The first, the last, and some between.</summary>
    private IEnumerable<ListRow> Sampled(IReadOnlyList<ListRow> rows)
    {
        var distinct = rows.Where(row => !IsUnfilled(row.Id)).DistinctBy(row => row.Address).ToList();
        var step = Math.Max(1.0, (distinct.Count - 1) / (double)Math.Max(1, limits.Records - 1));
        return Enumerable
            .Range(0, Math.Min(limits.Records, distinct.Count))
            .Select(i => distinct[(int)Math.Min(distinct.Count - 1, Math.Round(i * step))])
            .DistinctBy(row => row.Address);
    }

    /// <summary>Opens the page of a row, and says whether it is about that row. Null if there is none.</summary>
    private async Task<RecordVisit?> FollowAsync(
        LinkGroup group,
        RowComparison comparison,
        ListRow row,
        bool isMain,
        CancellationToken cancellation
    )
    {
        var answer = await client.GetAsync(row.Address, cancellation);
        Count("records");
        if (answer.IsFile || answer.Trouble == PoliteClient.IsForbidden)
            return null;
        if (answer.Page is not { } page || answer.Status >= 400)
        {
            Tell(FindingCodes.AuditDeadLink, group.Pattern, "row", row.Address, answer.Trouble ?? $"status {answer.Status}");
            Inside(group, "row", answer);
            return null;
        }

        Inside(group, "row", answer);
        if (RecordPageReading.AsksToSignIn(page))
        {
            _notSeen.Add($"{row.Address} asks to sign in");
            return null;
        }

        var frame = RecordPageReading.Frame(page);
        var title = page.Title ?? "";
        var text = new PageText(RecordPageReading.TextOf(page, answer.Address, group));
        var (best, most) = comparison.Best(text);
        var own = comparison.Score(row, text);
        var isRight = own >= RowComparison.Enough && most < own + RowComparison.Ahead;
        if (!comparison.CanTell(row))
            Count("rows that say too little to be compared");
        else if (isMain && !isRight && best is not null && most >= RowComparison.Enough && most >= own + RowComparison.Ahead)
            Tell(
                FindingCodes.AuditWrongRecord,
                group.Pattern,
                "row",
                row.Address,
                $"“{row.LinkText}” leads to a page about {Shown(best)}"
            );
        else if (isMain && own < RowComparison.Little)
            Tell(
                FindingCodes.AuditSaysNothing,
                group.Pattern,
                "row",
                row.Address,
                $"the page says nothing of what the row says: {Shown(row)}"
            );
        return new RecordVisit(row, answer, text, frame, title, isRight && comparison.CanTell(row), best);
    }

    /// <summary>What shows only with several pages: one record for all, one title for all.</summary>
    private void Alike(LinkGroup group, List<RecordVisit> visits)
    {
        var wrong = _faults.Where(fault => fault.Code == FindingCodes.AuditWrongRecord && fault.About == group.Pattern).ToList();
        var shown = visits.Where(visit => visit.Best is not null).Select(visit => visit.Best!.Address).ToList();
        if (wrong.Count >= 2 && shown.Count >= 3 && shown.Distinct().Count() == 1)
        {
            _faults.RemoveAll(wrong.Contains);
            foreach (var fault in wrong)
                Tell(
                    FindingCodes.AuditSameRecord,
                    group.Pattern,
                    "row",
                    fault.Address,
                    $"shows {shown[0].PathAndQuery}, as all others do"
                );
        }

        if (visits.Count >= 3 && visits.Select(visit => visit.Title).Distinct().Count() == 1)
            Tell(
                FindingCodes.AuditTitles,
                group.Pattern,
                "title",
                visits[0].Row.Address,
                $"{visits.Count} records have the title “{Cut(visits[0].Title)}”"
            );
    }

    /// <summary>Asks for IDs that are none.</summary>
    private async Task WrongIdsAsync(
        LinkGroup group,
        RowComparison comparison,
        RecordVisit right,
        List<RecordVisit> visits,
        CancellationToken cancellation
    )
    {
        var frame = visits.Aggregate(right.Frame.ToHashSet(), (common, visit) => [.. common.Intersect(visit.Frame)]);
        if (visits.Count < 2)
            frame = [];
        var judge = new BadIdJudge(group, comparison, right.Row.Address, right.Answer.Page!, frame);
        foreach (var bad in BadId.Of(right.Row.Address, group.Part, right.Row.Id))
        {
            if (client.IsOver is { } why)
            {
                _notSeen.Add($"wrong IDs of {group.Pattern}: {why}");
                return;
            }

            var answer = await client.GetAsync(bad.Address, cancellation);
            Count("wrong IDs");
            Inside(group, bad.Kind, answer);
            _faults.AddRange(judge.Judge(bad, answer));
        }
    }

    private void Inside(LinkGroup group, string kind, AuditAnswer answer)
    {
        if (RecordPageReading.InsideOf(answer.Body) is { } inside)
            Tell(FindingCodes.AuditInsideShown, group.Pattern, kind, answer.Asked, $"shows “{Cut(inside)}”");
    }

    private void Count(string what) => _seen[what] = _seen.GetValueOrDefault(what) + 1;

    private void Tell(FindingCode code, string about, string kind, Uri address, string says, bool isCertain = true) =>
        _faults.Add(new AuditFault(code, about, kind, address, says, isCertain));

    /// <summary>The first things that a row says.</summary>
    internal static string Shown(ListRow row) => string.Join(", ", row.Facts.Take(3).Select(fact => $"“{Cut(fact.Shown)}”"));

    private static string Cut(string text) => text.Length <= 60 ? text : text[..59] + "…";

    /// <summary>The page of a row.</summary>
    /// <param name="IsRight">Whether it is about its row.</param>
    /// <param name="Best">The row that it speaks of most.</param>
    private sealed record RecordVisit(
        ListRow Row,
        AuditAnswer Answer,
        PageText Text,
        IReadOnlySet<string> Frame,
        string Title,
        bool IsRight,
        ListRow? Best
    );
}
