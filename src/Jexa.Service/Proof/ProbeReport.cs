using Jexa.Core.Definitions;
using Jexa.Service.Management;

namespace Jexa.Service.Proof;

/// <summary>The report of a probe.</summary>
public static class ProbeReport
{
    private const int MostExamples = 5;

    public static ProofReport Of(Probe probe, ProbeInfo asked, IReadOnlyList<PageInfo> pages, ProbeSubject subject)
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
            ],
            Findings(probe, asked, pages, subject, isWhole: away.Count == 0 && silent.Count == 0 && subject.Only.Count == 0),
            board
        );
    }

    /// <summary>The differences, a finding for each page and kind of case, with the severities of the app file.</summary>
    /// <param name="isWhole">Whether everything was seen, so that what was not met is not there.</param>
    private static List<ProofFinding> Findings(
        Probe probe,
        ProbeInfo asked,
        IReadOnlyList<PageInfo> pages,
        ProbeSubject subject,
        bool isWhole
    )
    {
        var (findings, used) = (new List<ProofFinding>(), new HashSet<FindingSettingInfo>());
        foreach (
            var group in probe.Differences.Where(one => !one.IsAway).GroupBy(one => (one.Code, one.Case.Page, one.Case.Case))
        )
        {
            var page = pages.First(page => page.Name == group.Key.Page);
            var finding = Of([.. group], page, subject.File);
            var setting = asked.Settings.LastOrDefault(one =>
                one.Code == finding.Code && (one.On is null || one.On == page.Name || one.On == page.Record)
            );
            if (setting is not null)
                used.Add(setting);
            if (setting is null || setting.Severity is not null)
                findings.Add(finding with { Severity = setting?.Severity ?? finding.Severity });
        }

        var unused = asked.Settings.Where(one => isWhole && FindingCodes.IsMetByProbe(one.Code) && !used.Contains(one));
        findings.AddRange(unused.Select(one => Unused(one, subject.File)));
        return findings;
    }

    private static ProofFinding Unused(FindingSettingInfo setting, string file) =>
        new(
            FindingCodes.SettingForNothing.Id,
            FindingReport.Word(FindingCodes.SettingForNothing.Severity),
            FindingCodes.SettingForNothing.Title,
            file,
            setting.Line,
            1,
            null,
            $"{setting.Code} {setting.On}",
            $"“findings” has an entry for {setting.Code}{(setting.On is { } on ? $" on “{on}”" : "")}, and there is no such "
                + "finding.",
            "Remove the entry: what it was for is gone.",
            1,
            "certain",
            [],
            null
        );

    private static ProofFinding Of(List<ProbeDifference> differences, PageInfo page, string file)
    {
        var (first, kind) = (differences[0], differences[0].Case.Case);
        return new ProofFinding(
            first.Code.Id,
            FindingReport.Word(first.Code.Severity),
            first.Code.Title,
            file,
            page.Line,
            1,
            page.Name,
            $"{page.Name}: {kind}",
            $"{first.Code.Title}: the page “{page.Name}”, case {kind}.",
            "Look at the visit's trace. If the page is behind another program, look at what that does to its answers.",
            differences.Count,
            "certain",
            [
                .. differences
                    .Take(MostExamples)
                    .Select(one => new ProofExample(one.Case.Parameter ?? "", one.Case.Address, one.Says, one.Request)),
            ],
            null
        );
    }
}
