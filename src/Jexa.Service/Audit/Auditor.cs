using Jexa.Core.Audit;

namespace Jexa.Service.Audit;

/// <summary>
/// Examines somebody's list and the pages that its rows lead to, as a visitor sees them, whatever they are written in: whether
/// each link leads to the record of its row, and what wrong IDs get. It only reads.
/// </summary>
internal sealed class Auditor(IPageAsker asker, PoliteClient files, AuditBudget budget, AuditNotes notes)
{
    private const int MostGroups = 3;

    /// <summary>Examines a list.</summary>
    /// <param name="first">The answer at its address.</param>
    /// <returns>The main links, and the pages that they lead to; null if there are none.</returns>
    public async Task<(LinkGroup Group, IReadOnlyList<RecordVisit> Visits)?> RunAsync(
        Uri list,
        AuditAnswer first,
        CancellationToken cancellation
    )
    {
        if (first.Page is not { } page || first.Status >= 400)
        {
            notes.Skip($"{list}: {first.Trouble ?? $"status {first.Status}"}");
            return null;
        }

        if (RecordPageReading.AsksToSignIn(page))
            notes.Skip($"{list} asks to sign in: give a cookie or header of somebody who is (--header)");
        var groups = GroupsOf(first);
        if (groups.Count == 0)
        {
            notes.Skip($"{list}: no links from rows to records were found");
            return null;
        }

        if (!ListReading.IsTelling(groups[0]))
            notes.Skip($"{groups[0].Pattern}: its rows say too little to tell one record from another");
        var exam = new ListExam(asker, notes);
        exam.Links(page, first.Address, groups);
        exam.Twice(groups[0], page, first.Address);
        await exam.OddAsync(groups[0], page, first.Address, cancellation);
        var window = await exam.PagingAsync(ListReading.Next(page, first.Address), groups[0], cancellation);
        if (window is var (address, rows))
            await exam.WayBackAsync(first.Address, address, rows, cancellation);
        return await FollowAsync(first.Address, groups, cancellation);
    }

    /// <summary>The groups of links that may lead to records.</summary>
    public static IReadOnlyList<LinkGroup> GroupsOf(AuditAnswer list) =>
        list.Page is { } page ? [.. ListReading.Groups(page, list.Address).Where(group => group.Rows.Count >= 2)] : [];

    private async Task<(LinkGroup, IReadOnlyList<RecordVisit>)> FollowAsync(
        Uri list,
        IReadOnlyList<LinkGroup> groups,
        CancellationToken cancellation
    )
    {
        var records = new RecordExam(list, asker, files, budget, notes);
        IReadOnlyList<RecordVisit> main = [];
        foreach (var group in groups.Take(MostGroups))
        {
            var visits = await records.FollowAsync(group, isMain: group == groups[0], cancellation);
            if (group != groups[0])
                continue;
            main = visits;
            await new BadIdExam(asker, budget, notes).RunAsync(group, visits, cancellation);
        }

        return (groups[0], main);
    }
}
