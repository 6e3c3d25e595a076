using Jexa.Core.Definitions;
using Jexa.Service.Proof;

namespace Jexa.Service.Audit;

/// <summary>Audits a list, and makes the report.</summary>
public static class AuditRun
{
    private const int MostExamples = 5;

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
        using var client = new PoliteClient(list, limits, clock) { Stop = stop, Tell = tell };
        var auditor = new Auditor(client, limits);
        await auditor.RunAsync(list, cancellation);
        var gaps = auditor.NotSeen.Distinct().Select(why => new ProofGap("audit", why)).ToList();
        if (client.Forbidden > 0)
            gaps.Add(new ProofGap("robots.txt", $"forbids {client.Forbidden} of the addresses", IsChosen: true));
        return new ProofReport(
            "audit",
            list.AbsoluteUri,
            ReportWords.Version,
            started,
            clock.GetElapsedTime(begun).TotalSeconds,
            [.. auditor.Seen.Select(one => new ProofFigure(one.Key, one.Value)), new ProofFigure("requests", client.Requests)],
            gaps,
            [.. auditor.Faults.GroupBy(fault => (fault.Code, fault.About)).Select(group => Of([.. group], list))],
            null
        );
    }

    private static ProofFinding Of(List<AuditFault> faults, Uri list)
    {
        var first = faults[0];
        var kinds = string.Join(", ", faults.Select(fault => fault.Kind).Distinct());
        return FindingReport.New(
            first.Code,
            new Place(list.AbsoluteUri, 0, 0),
            first.About,
            $"{first.Code.Title}: {first.About} ({kinds}).",
            Remedy(first.Code)
        ) with
        {
            Count = faults.Count,
            Sure = faults.Exists(fault => fault.IsCertain) ? "certain" : "likely",
            Examples =
            [
                .. faults
                    .DistinctBy(fault => fault.Address)
                    .Take(MostExamples)
                    .Select(fault => new ProofExample(
                        fault.Kind,
                        fault.Address.PathAndQuery,
                        fault.Says,
                        FindingReport.Curl(fault.Address.AbsoluteUri)
                    )),
            ],
        };
    }

    private static string Remedy(FindingCode code) =>
        code == FindingCodes.AuditWrongRecord || code == FindingCodes.AuditSameRecord || code == FindingCodes.AuditSaysNothing
            ? "Look at how the page reads the ID, and whether the link passes it under the name that the page reads."
        : code == FindingCodes.AuditSoftMissing ? "Answer 404 for an ID that has no record, and 400 for one that cannot be an ID."
        : code == FindingCodes.AuditBadIdShowsRecord
            ? "Compare the whole ID, as its own type, and show nothing if it is not there."
        : code == FindingCodes.AuditServerFault || code == FindingCodes.AuditInsideShown
            ? "Read the ID as its type before it is used, and answer 400; show visitors nothing of a fault."
        : code == FindingCodes.AuditUnescaped ? "Encode the ID where it is written into the page."
        : code == FindingCodes.AuditTwoAddresses
            ? "Redirect other spellings of an ID to the one address, or name it: <link rel=\"canonical\">."
        : code == FindingCodes.AuditPositionAsId ? "Use the record's key as the ID, never its place in the list."
        : code == FindingCodes.AuditTitles ? "Put the record's name into the title."
        : "Open the address, and see.";
}
