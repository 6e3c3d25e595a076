using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Opens one record after another as one visitor who keeps cookies: each address must show its own record.</summary>
internal sealed class SessionExam(IPageAsker asker, AuditBudget budget, AuditNotes notes)
{
    /// <param name="visits">The pages of rows; those that are right are opened again.</param>
    public async Task RunAsync(LinkGroup group, IReadOnlyList<RecordVisit> visits, CancellationToken cancellation)
    {
        var rows = visits.Where(visit => visit.IsRight).Select(visit => visit.Row).ToList();
        if (rows.Count < 2 || budget.IsOver is not null)
            return;
        var answer = await asker.GetAfterAsync(rows[^1].Address, rows[0].Address, cancellation);
        if (answer.IsNone)
            return;
        var visit = RecordVisit.Of(group, new RowComparison(group.Rows), rows[0], answer);
        if (visit is not { IsRight: true })
            notes.Tell(
                ProofCodes.AuditEarlierVisit,
                group.Pattern,
                "session",
                rows[0].Address,
                $"after a visit to {RouteAddress.Shown(rows[^1].Address)} it shows "
                    + (
                        visit?.Best is { } best ? AuditNotes.Shown(best)
                        : answer.Page is null ? answer.Why
                        : "nothing of its record"
                    )
            );
    }
}
