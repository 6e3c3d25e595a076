using Jexa.Service.Proof;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows a report: findings with their examples, then what was seen and what it comes to.</summary>
internal static class ReportView
{
    public static void Write(ProofReport report)
    {
        var console = Terminal.Out();
        foreach (var finding in report.Findings)
            Write(console, finding);
        if (report.Board is { } board)
            Write(console, board);
        if (report.Change is { } change)
            foreach (var finding in change.Gone)
                console.MarkupLine($"[green]gone[/] {finding.Code} {Terminal.Escaped(finding.Message)}");
        foreach (var gap in report.NotSeen)
            console.MarkupLine($"[yellow]not seen[/] {Terminal.Escaped(gap.Part)}: {Terminal.Escaped(gap.Why)}");
        if (report.Findings.Count > 0 || report.NotSeen.Count > 0 || report.Board is not null)
            console.WriteLine();
        if (report.Seen.Count > 0)
            console.WriteLine($"Seen: {string.Join(", ", report.Seen.Select(ReportWords.Of))}, in {report.Seconds:0.0} s.");
        console.MarkupLine(Terminal.Escaped(ReportWords.Verdict(report)));
    }

    private static void Write(IAnsiConsole console, ProofFinding finding)
    {
        FindingView.Head(
            console,
            finding.Line > 0 ? $"{finding.File}:{finding.Line}:{finding.Column}" : finding.File,
            finding.Severity,
            finding.Code,
            finding.IsKnown ? $"{finding.Message} (known)" : finding.Message
        );
        FindingView.Detail(console, "times", finding.Count > 1 ? ReportWords.Count(finding.Count) : null);
        FindingView.Detail(console, "found", finding.Found);
        FindingView.Detail(console, "expected", finding.Expected);
        FindingView.Detail(console, "nearest", finding.Nearest);
        for (var i = 0; i < finding.Examples.Count; i++)
            FindingView.Detail(console, i == 0 ? "such as" : "", ReportWords.Of(finding.Examples[i]));
        FindingView.Detail(console, "request", finding.Examples.FirstOrDefault(example => example.Request is not null)?.Request);
        FindingView.Detail(console, "query", finding.Query);
        FindingView.Detail(console, "sure", finding.Sure == "certain" ? null : finding.Sure);
        FindingView.Detail(console, "remedy", finding.Remedy);
    }

    private static void Write(IAnsiConsole console, ProofBoard board)
    {
        var table = Terminal.Table(["page", .. board.Cases]);
        foreach (var row in board.Rows)
            table.AddRow([Markup.Escape(row.Page), .. board.Cases.Select(name => Cell(row, name))]);
        console.Write(table);
    }

    private static string Cell(ProofRow row, string name)
    {
        var (tried, wrong) = row.Of(name);
        return tried == 0 ? "-"
            : wrong == 0 ? $"{tried} ok"
            : $"[red]{wrong}/{tried} fail[/]";
    }
}
