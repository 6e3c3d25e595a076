using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa check APP_FILE</c>: everything that is wrong with an app file, without serving it.</summary>
internal static class CheckCommand
{
    private sealed record CheckReport(string File, bool Serves, int Pages, IReadOnlyList<FindingInfo> Findings);

    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var json = CommonOptions.Json();
        var command = new ExampleCommand(
            "check",
            "Say everything that is wrong with an app file, all at once, without serving it.",
            "jexa check register.yaml",
            "jexa check register.yaml --json"
        )
        {
            file,
            json,
        };
        command.SetAction((parsed, cancellation) => RunAsync(parsed.GetValue(file)!, parsed.GetValue(json), cancellation));
        return command;
    }

    private static async Task<int> RunAsync(string file, bool json, CancellationToken cancellation)
    {
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(file, sources, Mount.Root, cancellation);
            var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
            if (json)
                Terminal.Json(
                    new CheckReport(file, compilation.Site is not null, compilation.Definition?.Pages.Count ?? 0, findings)
                );
            else
                Write(file, compilation.Site?.Pages.Count, findings);
            return compilation.SourceIsAway ? ExitCodes.CannotReach
                : findings.Any(finding => finding.Severity != "hint") ? ExitCodes.Findings
                : ExitCodes.Fine;
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static void Write(string file, int? pages, IReadOnlyList<FindingInfo> findings)
    {
        var console = Terminal.Out();
        FindingView.Write(console, findings);
        if (findings.Count > 0)
            console.WriteLine();
        console.WriteLine(
            pages is { } count
                ? $"{file} makes a site of {count} {(count == 1 ? "page" : "pages")}: {FindingView.Count(findings)}."
                : $"{file} makes no site: {FindingView.Count(findings)}."
        );
    }
}
