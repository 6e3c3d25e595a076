using Jexa.Service.Proof;

namespace Jexa.Service.Audit;

/// <summary>Audits a list, and makes the report.</summary>
public static class AuditRun
{
    /// <param name="tell">Is told what is asked for, and how many requests there were.</param>
    /// <param name="stop">Ends it early; the report says so.</param>
    public static async Task<ProofReport> OfAsync(
        Uri list,
        AuditLimits limits,
        TimeProvider clock,
        Action<string, long> tell,
        CancellationToken stop,
        CancellationToken cancellation
    )
    {
        var (started, begun) = (clock.GetUtcNow(), clock.GetTimestamp());
        var (budget, robots, notes) = (new AuditBudget(limits, clock, tell, stop), new RobotsRules(), new AuditNotes());
        using var client = new PoliteClient(list, budget, robots);
        await client.BeginAsync(cancellation);
        var plain = await client.GetAsync(list, cancellation);
        await using var drawing = await Drawing.BeginAsync(list, plain, budget, robots, notes, cancellation);
        if (drawing is null)
            await PlainAsync(list, plain, client, budget, notes, cancellation);
        else
            await drawing.RunAsync(client, cancellation);
        var gaps = notes.NotSeen.Distinct().Select(why => new ProofGap("audit", why)).ToList();
        if (robots.Withheld > 0)
            gaps.Add(new ProofGap("robots.txt", $"forbids {robots.Withheld} of the addresses", IsChosen: true));
        gaps.AddRange(
            (drawing?.Client.Withheld ?? new Dictionary<string, int>()).Select(one => new ProofGap(
                one.Key,
                $"{one.Value} of its pages were not sent",
                IsChosen: true
            ))
        );
        return new ProofReport(
            "audit",
            list.AbsoluteUri,
            ReportWords.Version,
            started,
            clock.GetElapsedTime(begun).TotalSeconds,
            [.. notes.Seen.Select(one => new ProofFigure(one.Key, one.Value)), new ProofFigure("requests", budget.Requests)],
            gaps,
            await AuditFindings.OfAsync(notes, list, drawing?.Client, cancellation),
            null
        );
    }

    private static async Task PlainAsync(
        Uri list,
        AuditAnswer first,
        PoliteClient client,
        AuditBudget budget,
        AuditNotes notes,
        CancellationToken cancellation
    )
    {
        if (await new Auditor(client, client, budget, notes).RunAsync(list, first, cancellation) is var (group, visits))
            await new SessionExam(client, budget, notes).RunAsync(group, visits, cancellation);
    }
}
