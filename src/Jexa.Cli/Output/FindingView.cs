using Jexa.Service.Management;
using Jexa.Service.Proof;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows findings: place, severity and code as one line that editors understand, then cause and remedy.</summary>
internal static class FindingView
{
    public static void Write(IAnsiConsole console, IReadOnlyList<FindingInfo> findings)
    {
        foreach (var finding in findings)
        {
            Head(console, $"{finding.File}:{finding.Line}:{finding.Column}", finding.Severity, finding.Code, finding.Message);
            Detail(console, "found", finding.Found);
            Detail(console, "expected", finding.Expected);
            Detail(console, "nearest", finding.Nearest);
            Detail(console, "remedy", finding.Remedy);
        }
    }

    /// <summary>The line of a finding that editors understand.</summary>
    public static void Head(IAnsiConsole console, string place, string severity, string code, string message)
    {
        var color = severity switch
        {
            "error" => "red",
            "warning" => "yellow",
            _ => "cyan",
        };
        console.MarkupLine($"[bold]{Terminal.Escaped(place)}[/] [{color}]{severity} {code}[/] {Terminal.Escaped(message)}");
    }

    /// <summary>“2 errors, 1 warning and 3 hints”.</summary>
    public static string Count(IReadOnlyList<FindingInfo> findings) =>
        ReportWords.Counts(findings.Select(finding => finding.Severity));

    /// <summary>A line below it; none without a value.</summary>
    public static void Detail(IAnsiConsole console, string name, string? value)
    {
        if (value is not null)
            console.Write(new Padder(new Markup($"[dim]{name, -9}[/]{Terminal.Escaped(value)}"), new Padding(4, 0, 0, 0)));
    }
}
