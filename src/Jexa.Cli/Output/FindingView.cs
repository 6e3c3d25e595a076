using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows findings: place, severity and code as one line that editors understand, then cause and remedy.</summary>
internal static class FindingView
{
    public static void Write(IAnsiConsole console, IReadOnlyList<FindingInfo> findings)
    {
        foreach (var finding in findings)
        {
            var color = finding.Severity == "error" ? "red" : "yellow";
            console.MarkupLine(
                $"[bold]{Terminal.Escaped($"{finding.File}:{finding.Line}:{finding.Column}")}[/] [{color}]{finding.Severity} {finding.Code}[/] {Terminal.Escaped(finding.Message)}");
            Detail(console, "found", finding.Found);
            Detail(console, "expected", finding.Expected);
            Detail(console, "nearest", finding.Nearest);
            Detail(console, "remedy", finding.Remedy);
        }
    }

    /// <summary>“2 errors and 1 warning”.</summary>
    public static string Count(IReadOnlyList<FindingInfo> findings)
    {
        var errors = findings.Count(finding => finding.Severity == "error");
        var warnings = findings.Count - errors;
        var parts = new[] { (errors, "error"), (warnings, "warning") }.Where(part => part.Item1 > 0)
            .Select(part => $"{part.Item1} {part.Item2}{(part.Item1 == 1 ? "" : "s")}").ToList();
        return parts.Count == 0 ? "no findings" : string.Join(" and ", parts);
    }

    private static void Detail(IAnsiConsole console, string name, string? value)
    {
        if (value is not null) console.Write(new Padder(new Markup($"[dim]{name,-9}[/]{Terminal.Escaped(value)}"), new Padding(4, 0, 0, 0)));
    }
}
