using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows findings: place, severity and code as one line that editors understand, then cause and remedy.</summary>
internal static class FindingView
{
    private static readonly string[] Severities = ["error", "warning", "hint"];

    public static void Write(IAnsiConsole console, IReadOnlyList<FindingInfo> findings)
    {
        foreach (var finding in findings)
        {
            var color = finding.Severity switch
            {
                "error" => "red",
                "warning" => "yellow",
                _ => "cyan",
            };
            console.MarkupLine(
                $"[bold]{Terminal.Escaped($"{finding.File}:{finding.Line}:{finding.Column}")}[/] "
                    + $"[{color}]{finding.Severity} {finding.Code}[/] {Terminal.Escaped(finding.Message)}"
            );
            Detail(console, "found", finding.Found);
            Detail(console, "expected", finding.Expected);
            Detail(console, "nearest", finding.Nearest);
            Detail(console, "remedy", finding.Remedy);
        }
    }

    /// <summary>“2 errors, 1 warning and 3 hints”.</summary>
    public static string Count(IReadOnlyList<FindingInfo> findings)
    {
        var parts = Severities
            .Select(word => (word, count: findings.Count(finding => finding.Severity == word)))
            .Where(part => part.count > 0)
            .Select(part => $"{part.count} {part.word}{(part.count == 1 ? "" : "s")}")
            .ToList();
        return parts.Count switch
        {
            0 => "no findings",
            1 => parts[0],
            _ => string.Join(", ", parts[..^1]) + " and " + parts[^1],
        };
    }

    private static void Detail(IAnsiConsole console, string name, string? value)
    {
        if (value is not null)
            console.Write(new Padder(new Markup($"[dim]{name, -9}[/]{Terminal.Escaped(value)}"), new Padding(4, 0, 0, 0)));
    }
}
