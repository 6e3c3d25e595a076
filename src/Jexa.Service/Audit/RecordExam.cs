using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Follows the links of rows, and says whether each page is about its row and holds what it should.</summary>
/// <param name="list">The address of the list.</param>
/// <param name="files">Asks for pictures.</param>
internal sealed class RecordExam(Uri list, IPageAsker asker, PoliteClient files, AuditBudget budget, AuditNotes notes)
{
    private const int MostPictures = 6;

    /// <summary>So many pages are asked for after the list in vain; then no more are.</summary>
    private const int MostInVain = 3;

    private int _inVain;

    /// <param name="isMain">Whether the links are those of the rows' own records.</param>
    public async Task<IReadOnlyList<RecordVisit>> FollowAsync(LinkGroup group, bool isMain, CancellationToken cancellation)
    {
        var comparison = new RowComparison(group.Rows);
        var visits = new List<RecordVisit>();
        foreach (var row in Sampled(group.Rows))
        {
            if (budget.IsOver is { } why)
            {
                notes.Skip($"the rest of {group.Pattern}: {why}");
                break;
            }

            if (await FollowAsync(group, comparison, row, isMain, cancellation) is { } visit)
                visits.Add(visit);
        }

        Alike(group, visits);
        if (!isMain)
            return visits;
        Fields(group, visits);
        var slow = new SlowAnswers(asker, notes, visits.Where(visit => visit.IsRight));
        foreach (var visit in visits)
            await slow.CheckAsync(group, "row", visit.Answer, cancellation);
        await PicturesAsync(group, visits, cancellation);
        await EditAsync(group, comparison, visits, cancellation);
        await AgainAsync(group, comparison, visits, cancellation);
        return visits;
    }

    /// <summary>The first, the last, and some between.</summary>
    private IEnumerable<ListRow> Sampled(IReadOnlyList<ListRow> rows)
    {
        var most = budget.Limits.Records;
        var distinct = rows.Where(row => !ListExam.IsUnfilled(row.Id)).DistinctBy(row => row.Address).ToList();
        var step = Math.Max(1.0, (distinct.Count - 1) / (double)Math.Max(1, most - 1));
        return Enumerable
            .Range(0, Math.Min(most, distinct.Count))
            .Select(i => distinct[(int)Math.Min(distinct.Count - 1, Math.Round(i * step))])
            .DistinctBy(row => row.Address);
    }

    /// <summary>Opens the page of a row. Null if there is none.</summary>
    private async Task<RecordVisit?> FollowAsync(
        LinkGroup group,
        RowComparison comparison,
        ListRow row,
        bool isMain,
        CancellationToken cancellation
    )
    {
        var answer = await asker.GetAsync(row.Address, cancellation);
        notes.Count("records");
        if (answer.IsFile || answer.IsNone)
            return null;
        notes.Inside(group, "row", answer);
        var visit = RecordVisit.Of(group, comparison, row, answer);
        if (visit is { AsksToSignIn: true })
        {
            notes.Skip($"{row.Address} asks to sign in");
            return null;
        }

        if (visit is { IsRight: true } || (visit is not null && !comparison.CanTell(row)))
        {
            if (!visit.IsRight)
                notes.Count("rows that could not be compared");
            Spoilt(group, visit);
            return visit;
        }

        if (isMain && await NeedsListAsync(group, comparison, row, cancellation))
            return null;
        if (visit is null)
            notes.Dead(group, "row", answer);
        else if (isMain)
            Wrong(group, comparison, visit);
        return visit;
    }

    /// <summary>A page that says something other than its row.</summary>
    private void Wrong(LinkGroup group, RowComparison comparison, RecordVisit visit)
    {
        var (own, row) = (comparison.Score(visit.Row, visit.Text), visit.Row);
        var most = visit.Best is null ? 0 : comparison.Score(visit.Best, visit.Text);
        if (visit.Best is not null && most >= RowComparison.Enough && most >= own + RowComparison.Ahead)
            notes.Tell(
                ProofCodes.AuditWrongRecord,
                group.Pattern,
                "row",
                row.Address,
                $"“{row.LinkText}” leads to a page about {AuditNotes.Shown(visit.Best)}"
            );
        else if (own < RowComparison.Little || visit.Below < RowComparison.Little)
            notes.Tell(
                ProofCodes.AuditSaysNothing,
                group.Pattern,
                "row",
                row.Address,
                $"the page says nothing of what the row says: {AuditNotes.Shown(row)}"
            );
    }

    /// <summary>Whether a page that is wrong by itself is right after a visit to the list.</summary>
    private async Task<bool> NeedsListAsync(
        LinkGroup group,
        RowComparison comparison,
        ListRow row,
        CancellationToken cancellation
    )
    {
        if (budget.IsOver is not null || _inVain >= MostInVain)
            return false;
        var after = await asker.GetAfterAsync(list, row.Address, cancellation);
        if (RecordVisit.Of(group, comparison, row, after) is not { IsRight: true })
        {
            _inVain++;
            return false;
        }

        notes.Tell(
            ProofCodes.AuditNeedsList,
            group.Pattern,
            "row",
            row.Address,
            "it is right after a visit to the list, and not by itself"
        );
        return true;
    }

    /// <summary>What shows only with several pages: one record for all, one title for all.</summary>
    private void Alike(LinkGroup group, List<RecordVisit> visits)
    {
        var shown = visits.Where(visit => visit.Best is not null).Select(visit => visit.Best!.Address).ToList();
        if (notes.Faults.Count(fault => IsWrong(fault, group)) >= 2 && shown.Count >= 3 && shown.Distinct().Count() == 1)
            foreach (var fault in notes.Take(fault => IsWrong(fault, group)))
                notes.Tell(
                    ProofCodes.AuditSameRecord,
                    group.Pattern,
                    "row",
                    fault.Address,
                    $"shows {RouteAddress.Shown(shown[0])}, as all others do"
                );
        var titles = visits.Select(visit => visit.Title).Distinct().ToList();
        if (visits.Count >= 3 && titles.Count == 1)
            notes.Tell(
                ProofCodes.AuditTitles,
                group.Pattern,
                "title",
                visits[0].Row.Address,
                $"{visits.Count} records have the title “{AuditNotes.Cut(titles[0])}”"
            );
    }

    private static bool IsWrong(AuditFault fault, LinkGroup group) =>
        fault.Code == ProofCodes.AuditWrongRecord && fault.About == group.Pattern;

    private void Fields(LinkGroup group, IReadOnlyList<RecordVisit> visits)
    {
        var fields = new FieldComparison(group.Rows);
        foreach (var visit in visits.Where(visit => visit.IsRight))
            fields.Add(visit.Row, visit.Text);
        foreach (var different in fields.Differences)
        foreach (var (row, own, other) in different)
            notes.Tell(
                ProofCodes.AuditOneField,
                group.Pattern,
                "row",
                row.Address,
                $"the row says “{AuditNotes.Cut(own.Shown)}”, and the page “{AuditNotes.Cut(other.Shown)}”, as another row does"
            );
    }

    private void Spoilt(LinkGroup group, RecordVisit visit)
    {
        if (SpoiltText.Of(visit.Said) is { } spoilt)
            notes.Tell(
                ProofCodes.AuditSpoiltText,
                group.Pattern,
                "row",
                visit.Row.Address,
                $"the page says “{AuditNotes.Cut(spoilt)}”"
            );
    }

    private async Task PicturesAsync(LinkGroup group, IReadOnlyList<RecordVisit> visits, CancellationToken cancellation)
    {
        var pictures = visits.SelectMany(visit => visit.Pictures.Select(picture => (visit.Row, Picture: picture)));
        foreach (var (row, picture) in pictures.DistinctBy(one => one.Picture).Take(MostPictures))
        {
            if (budget.IsOver is not null)
                return;
            var file = await files.FileAsync(picture, cancellation);
            notes.Count("pictures");
            var wrong =
                file.Status == 429 ? null
                : file.Status >= 400 ? $"status {file.Status}"
                : file.Status == 200 && file.Length == 0 ? "it has no bytes"
                : file.Status == 200 && file.Type.Length > 0 && !file.Type.StartsWith("image/", StringComparison.Ordinal)
                    ? $"it is {file.Type}"
                : null;
            if (wrong is not null)
                notes.Tell(
                    ProofCodes.AuditPicture,
                    group.Pattern,
                    "picture",
                    picture,
                    $"a picture of {RouteAddress.Shown(row.Address)}: {wrong}"
                );
        }
    }

    /// <summary>Looks at where the first records are edited. Nothing is sent.</summary>
    private async Task EditAsync(
        LinkGroup group,
        RowComparison comparison,
        IReadOnlyList<RecordVisit> visits,
        CancellationToken cancellation
    )
    {
        foreach (var visit in visits.Where(visit => visit is { IsRight: true, Edit: not null }).Take(2))
        {
            if (budget.IsOver is not null)
                return;
            var answer = await asker.GetAsync(visit.Edit!, cancellation);
            if (answer.Page is { } asking && RecordPageReading.AsksToSignIn(asking))
                return;
            notes.Count("edit pages");
            if (answer.IsNone)
                return;
            if (answer.Page is not { } page || answer.Status >= 400)
            {
                notes.Dead(group, "edit", answer);
                continue;
            }

            if (FormReading.ValuesOf(page) is not { } values)
                continue;
            var text = new PageText(string.Join(" \n ", values));
            var (best, most) = comparison.Best(text);
            var own = comparison.Score(visit.Row, text);
            if (values.All(value => value.Length == 0))
                notes.Tell(ProofCodes.AuditEditForm, group.Pattern, "edit", visit.Edit!, "all of its fields are empty");
            else if (best is not null && best != visit.Row && most >= own + RowComparison.Ahead)
                notes.Tell(
                    ProofCodes.AuditEditForm,
                    group.Pattern,
                    "edit",
                    visit.Edit!,
                    $"it holds {AuditNotes.Shown(best)} instead of {AuditNotes.Shown(visit.Row)}"
                );
        }
    }

    /// <summary>Asks for a record once more, as a refresh does.</summary>
    private async Task AgainAsync(
        LinkGroup group,
        RowComparison comparison,
        IReadOnlyList<RecordVisit> visits,
        CancellationToken cancellation
    )
    {
        if (visits.FirstOrDefault(visit => visit.IsRight) is not { } first || budget.IsOver is not null)
            return;
        var answer = await asker.GetAsync(first.Row.Address, cancellation);
        if (!answer.IsNone && RecordVisit.Of(group, comparison, first.Row, answer) is not { IsRight: true })
            notes.Tell(
                ProofCodes.AuditNeedsList,
                group.Pattern,
                "refresh",
                first.Row.Address,
                answer.Trouble ?? $"asked for again, it is status {answer.Status}, and not the same"
            );
    }
}
