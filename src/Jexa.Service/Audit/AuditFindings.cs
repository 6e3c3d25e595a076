using Jexa.Core.Audit;
using Jexa.Core.Definitions;
using Jexa.Service.Proof;

namespace Jexa.Service.Audit;

/// <summary>What an audit has found, as findings of a report.</summary>
internal static class AuditFindings
{
    private const int MostExamples = 5;

    /// <summary>Findings, one for each code and pattern of addresses, with a picture each if a browser draws the pages.</summary>
    public static async Task<IReadOnlyList<ProofFinding>> OfAsync(
        AuditNotes notes,
        Uri list,
        DrawnClient? drawn,
        CancellationToken cancellation
    )
    {
        var findings = new List<ProofFinding>();
        foreach (
            var group in notes
                .Faults.GroupBy(fault => (fault.Code, fault.About))
                .OrderByDescending(group => group.Key.Code.Severity)
        )
        {
            var finding = Of([.. group], list);
            // One picture tells enough, and keeps the report small.
            if (drawn is not null && await drawn.PictureAsync(group.First().Address, cancellation) is { } picture)
            {
                var shown = finding.Examples[0] with { Picture = $"data:image/jpeg;base64,{Convert.ToBase64String(picture)}" };
                finding = finding with { Examples = [shown, .. finding.Examples.Skip(1)] };
            }

            findings.Add(finding);
        }

        return findings;
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
            Examples = [.. faults.DistinctBy(fault => fault.Address.AbsoluteUri).Take(MostExamples).Select(Of)],
        };
    }

    private static ProofExample Of(AuditFault fault)
    {
        var address = RouteAddress.Unfold(fault.Address);
        return new ProofExample(
            fault.Kind,
            address.PathAndQuery + address.Fragment,
            fault.Says,
            // No request of such an address says which record it means.
            RouteAddress.IsFolded(fault.Address)
                ? null
                : FindingReport.Curl(fault.Address.AbsoluteUri)
        );
    }

    private static string Remedy(FindingCode code) =>
        Remedies.GetValueOrDefault(code, "Open the address, and see; docs/findings.md says more of it.");

    private static Dictionary<FindingCode, string> Remedies { get; } =
        new()
        {
            [ProofCodes.AuditWrongRecord] = ReadsId,
            [ProofCodes.AuditSameRecord] = ReadsId,
            [ProofCodes.AuditSaysNothing] = ReadsId,
            [ProofCodes.AuditSoftMissing] = "Answer 404 for an ID that has no record, and 400 for one that cannot be an ID.",
            [ProofCodes.AuditBadIdShowsRecord] = "Compare the whole ID, as its own type, and show nothing if it is not there.",
            [ProofCodes.AuditServerFault] = ReadsType,
            [ProofCodes.AuditInsideShown] = ReadsType,
            [ProofCodes.AuditUnescaped] = "Encode the ID where it is written into the page.",
            [ProofCodes.AuditTwoAddresses] =
                "Redirect other spellings of an ID to the one address, or name it: <link rel=\"canonical\">.",
            [ProofCodes.AuditPositionAsId] = "Use the record's key as the ID, never its place in the list.",
            [ProofCodes.AuditTitles] = "Put the record's name into the title.",
            [ProofCodes.AuditNeedsList] = "Read the record from the address alone, not from what was visited before.",
            [ProofCodes.AuditStale] = "Load the record anew whenever the ID in the address changes.",
            [ProofCodes.AuditLateAnswer] = "Take an answer only if its ID is still that of the address.",
            [ProofCodes.AuditBack] = "Draw what the address says on every change of it (popstate).",
            [ProofCodes.AuditLoadsTwice] = "Look at what begins the loading.",
            [ProofCodes.AuditScriptError] = "Open the page with the browser's tools.",
            [ProofCodes.AuditBlank] = "Show the frame of the page, or say that it is loading.",
            [ProofCodes.AuditNoAddress] = "Give each record an address with its ID.",
            [ProofCodes.AuditPicture] = "Look at the folder of the pictures, and at the name that the record has.",
            [ProofCodes.AuditEditForm] = "Fill the form from the record of the ID in the address.",
            [ProofCodes.AuditOneField] = "Look at how that field is read: by a position, from a cache, by a join without the ID.",
            [ProofCodes.AuditSpoiltText] = "Look at how the value is written into the page.",
            [ProofCodes.AuditWayBack] = "Let the link to a record, and the one back, carry the place in the list.",
            [ProofCodes.AuditRowTwice] = "Look at the joins of the list's query.",
        };

    private const string ReadsId =
        "Look at how the page reads the ID, and whether the link passes it under the name that the page reads.";

    private const string ReadsType =
        "Read the ID as its type before it is used, and answer 400; show visitors nothing of a fault.";
}
