using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Proof;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa check APP_FILE</c>: everything that is wrong with an app file, without serving it.</summary>
internal static class CheckCommand
{
    private sealed record Told(string File, bool Serves, int Pages, IReadOnlyList<FindingInfo> Findings);

    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var json = CommonOptions.Json();
        var command = new ExampleCommand(
            "check",
            "Say everything that is wrong with an app file, all at once, without serving it.",
            "jexa check register.yaml",
            "jexa check register.yaml --json",
            "jexa check register.yaml --report check.sarif --baseline last.json"
        )
        {
            file,
            json,
        };
        var reports = new ReportOptions(command, hasJson: false);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var compare = reports.Comparison(parsed);
                var (compilation, report) = await RunAsync(parsed.GetValue(file)!, cancellation);
                report = compare(report);
                reports.Save(parsed, report);
                Write(parsed.GetValue(file)!, compilation, report, parsed.GetValue(json));
                return compilation.SourceIsAway ? ExitCodes.CannotReach
                    : report.Fails ? ExitCodes.Findings
                    : ExitCodes.Fine;
            }
        );
        return command;
    }

    private static async Task<(Compilation Compilation, ProofReport Report)> RunAsync(string file, CancellationToken cancellation)
    {
        var (started, begun) = (TimeProvider.System.GetUtcNow(), TimeProvider.System.GetTimestamp());
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(file, sources, Mount.Root, cancellation);
            var report = CheckReport.Of(
                file,
                compilation.Definition,
                compilation.Partial,
                compilation.Findings,
                compilation.SourceIsAway,
                (started, TimeProvider.System.GetElapsedTime(begun))
            );
            return (compilation, report);
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static void Write(string file, Compilation compilation, ProofReport report, bool json)
    {
        var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
        if (json)
        {
            Terminal.Json(new Told(file, compilation.Site is not null, compilation.Definition?.Pages.Count ?? 0, findings));
            return;
        }

        var console = Terminal.Out();
        FindingView.Write(console, findings);
        if (findings.Count > 0)
            console.WriteLine();
        console.WriteLine(
            compilation.Site?.Pages.Count is { } count
                ? $"{file} makes a site of {count} {(count == 1 ? "page" : "pages")}: {FindingView.Count(findings)}."
                : $"{file} makes no site: {FindingView.Count(findings)}."
        );
        if (report.Change is not null)
            console.MarkupLine(Terminal.Escaped(ReportWords.Verdict(report)));
    }
}
