using Jexa.Core.Audit;

namespace Jexa.Service.Audit;

/// <summary>Asks for IDs that are none.</summary>
internal sealed class BadIdExam(IPageAsker asker, AuditBudget budget, AuditNotes notes)
{
    /// <param name="visits">The pages of rows; at least one of them is right.</param>
    public async Task RunAsync(LinkGroup group, IReadOnlyList<RecordVisit> visits, CancellationToken cancellation)
    {
        if (visits.FirstOrDefault(visit => visit.IsRight) is not { } right)
            return;
        var frame = visits.Aggregate(right.Frame.ToHashSet(), (common, visit) => [.. common.Intersect(visit.Frame)]);
        if (visits.Count < 2)
            frame = [];
        var slow = new SlowAnswers(asker, notes, visits.Where(visit => visit.IsRight));
        var judge = new BadIdJudge(group, new RowComparison(group.Rows), right.Row.Address, right.Answer.Page!, frame);
        foreach (var bad in BadId.Of(right.Row.Address, group.Part, right.Row.Id))
        {
            if (budget.IsOver is { } why)
            {
                notes.Skip($"wrong IDs of {group.Pattern}: {why}");
                return;
            }

            var answer = await asker.GetAsync(bad.Address, cancellation);
            notes.Count("wrong IDs");
            notes.Inside(group, bad.Kind, answer);
            foreach (var fault in judge.Judge(bad, answer))
                notes.Tell(fault);
            await slow.CheckAsync(group, bad.Kind, answer, cancellation);
        }
    }
}
