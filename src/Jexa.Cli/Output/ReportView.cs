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
        var color = finding.Severity switch
        {
            "error" => "red",
            "warning" => "yellow",
            _ => "cyan",
        };
        var place = finding.Line > 0 ? $"{finding.File}:{finding.Line}:{finding.Column}" : finding.File;
        console.MarkupLine(
            $"[bold]{Terminal.Escaped(place)}[/] [{color}]{finding.Severity} {finding.Code}[/] "
                + Terminal.Escaped(finding.Message)
                + (finding.IsKnown ? " [dim](known)[/]" : "")
        );
        Detail(console, "times", finding.Count > 1 ? ReportWords.Count(finding.Count) : null);
        Detail(console, "found", finding.Found);
        Detail(console, "expected", finding.Expected);
        Detail(console, "nearest", finding.Nearest);
        for (var i = 0; i < finding.Examples.Count; i++)
            Detail(console, i == 0 ? "such as" : "", ReportWords.Of(finding.Examples[i]));
        Detail(console, "request", finding.Examples.FirstOrDefault(example => example.Request is not null)?.Request);
        Detail(console, "query", finding.Query);
        Detail(console, "sure", finding.Sure == "certain" ? null : finding.Sure);
        Detail(console, "remedy", finding.Remedy);
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
        var cells = row.Cells.Where(cell => cell.Case == name).ToList();
        var wrong = cells.Count(cell => !cell.Holds);
        return cells.Count == 0 ? "-"
            : wrong == 0 ? $"{cells.Count} ok"
            : $"[red]{wrong}/{cells.Count} fail[/]";
    }

    private static void Detail(IAnsiConsole console, string name, string? value)
    {
        if (value is not null)
            console.Write(new Padder(new Markup($"[dim]{name, -9}[/]{Terminal.Escaped(value)}"), new Padding(4, 0, 0, 0)));
    }
}
