using Jexa.Core.Definitions;

namespace Jexa.Service.Proof;

/// <summary>The report of a probe.</summary>
public static class ProbeReport
{
    private const int MostExamples = 5;

    public static ProofReport Of(Probe probe, ProbeInfo asked, IReadOnlyList<ProbedPage> pages, ProbeSubject subject)
    {
        var board = probe.Board;
        var away = asked.Away.Where(page => subject.Only.Count == 0 || subject.Only.Contains(page.Key)).ToList();
        var silent = probe.Differences.Where(one => one.IsAway).Select(one => one.Case.Page).Distinct().ToList();
        return new ProofReport(
            "probe",
            subject.File,
            ReportWords.Version,
            subject.Started,
            subject.Seconds,
            [
                new ProofFigure("pages", board.Rows.Count),
                new ProofFigure(
                    "cases",
                    board.Rows.Sum(row => row.Cells.Select(cell => (cell.Case, cell.Address)).Distinct().Count())
                ),
                new ProofFigure("requests", probe.Requests),
            ],
            [
                .. away.Select(page => new ProofGap($"page {page.Key}", page.Value)),
                .. silent.Select(page => new ProofGap($"page {page}", "its source did not answer")),
                .. subject.Left.Select(page => new ProofGap($"page {page}", "it was stopped before")),
            ],
            Findings(
                probe,
                asked,
                pages,
                subject,
                isWhole: away.Count + silent.Count + subject.Left.Count + subject.Only.Count == 0
            ),
            board
        );
    }

    /// <summary>The differences, a finding for each page and kind of case, with the severities of the app file.</summary>
    /// <param name="isWhole">Whether everything was seen, so that what was not met is not there.</param>
    private static List<ProofFinding> Findings(
        Probe probe,
        ProbeInfo asked,
        IReadOnlyList<ProbedPage> pages,
        ProbeSubject subject,
        bool isWhole
    )
    {
        var settings = new FindingSettings([.. asked.Settings.Select(one => Of(one, subject.File))]);
        var findings = new List<ProofFinding>();
        foreach (
            var group in probe.Differences.Where(one => !one.IsAway).GroupBy(one => (one.Code, one.Case.Page, one.Case.Case))
        )
        {
            var page = pages.First(page => page.Name == group.Key.Page);
            if (settings.Of(group.Key.Code, page.Name, page.Record) is { } code)
                findings.Add(Of(code, [.. group], page, subject.File));
        }

        if (isWhole)
            findings.AddRange(settings.Unused(ProofCodes.IsMetByProbe).Select(one => FindingReport.Of(one, null)));
        return findings;
    }

    private static FindingSetting Of(FindingSettingInfo info, string file)
    {
        var at = new Place(file, info.Line, 1);
        return new FindingSetting(
            new Written(info.Code, at),
            info.On is { } on ? new Written(on, at) : null,
            info.Severity is { } word ? Enum.Parse<Severity>(word, ignoreCase: true) : null
        );
    }

    private static ProofFinding Of(FindingCode code, List<ProbeDifference> differences, ProbedPage page, string file)
    {
        var kind = differences[0].Case.Case;
        return FindingReport.New(
            code,
            new Place(file, page.Line, 1),
            $"{page.Name}: {kind}",
            $"{code.Title}: the page “{page.Name}”, case {kind}.",
            "Look at the visit's trace. If the page is behind another program, look at what that does to its answers."
        ) with
        {
            Page = page.Name,
            Count = differences.Count,
            Examples =
            [
                .. differences
                    .Take(MostExamples)
                    .Select(one => new ProofExample(one.Case.Parameter ?? "", one.Case.Address, one.Says, one.Request)),
            ],
        };
    }
}
