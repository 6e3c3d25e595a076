using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Proof;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Media;
using Jexa.Service.Proof;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa sweep APP_FILE</c>: proves every link, reference and value of all records.</summary>
internal static class SweepCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var command = new ExampleCommand(
            "sweep",
            "Read all records, and prove every link, reference, file and value. Changes nothing.",
            "jexa sweep register.yaml",
            "jexa sweep register.yaml --report sweep.html --report sweep.sarif --baseline last.json",
            "jexa sweep register.yaml --rate 2000 --within 30m --resume",
            "jexa sweep register.yaml --only bridge --instead register=\"Host=replica;Database=register\""
        )
        {
            file,
        };
        var limits = new SweepLimitOptions(command);
        var resume = new Option<bool>("--resume") { Description = "Go on where the last sweep of this app file was ended" };
        var state = new Option<string?>("--state")
        {
            Description = "Folder that keeps how far it has come; in the user's state folder if omitted",
            HelpName = "DIR",
        };
        var instead = new Option<string[]>("--instead")
        {
            Description = "Another connection for a source, such as a replica: NAME=CONNECTION",
            HelpName = "NAME=CONNECTION",
        };
        instead.Validators.Add(result =>
        {
            foreach (var token in result.Tokens.Where(token => token.Value.IndexOf('=') <= 0))
                result.AddError($"--instead must be NAME=CONNECTION, not “{token.Value}”.");
        });
        command.Add(resume);
        command.Add(state);
        command.Add(instead);
        var reports = new ReportOptions(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var compare = reports.Comparison(parsed);
                var report = await RunAsync(
                    parsed.GetValue(file)!,
                    limits.Of(parsed),
                    parsed.GetValue(resume),
                    parsed.GetValue(state),
                    Connections(parsed.GetValue(instead) ?? []),
                    cancellation
                );
                return reports.Finish(parsed, compare(report));
            }
        );
        return command;
    }

    private static Dictionary<string, string> Connections(string[] pairs)
    {
        var connections = new Dictionary<string, string>();
        foreach (var pair in pairs)
            connections[pair[..pair.IndexOf('=')]] = pair[(pair.IndexOf('=') + 1)..];
        return connections;
    }

    private static async Task<ProofReport> RunAsync(
        string file,
        SweepLimits limits,
        bool resume,
        string? state,
        Dictionary<string, string> connections,
        CancellationToken cancellation
    )
    {
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler
                .Over(sources, Mount.Root, connections)
                .CompileAsync(file, await AppFileCompiler.ReadAsync(file, cancellation), cancellation);
            if (compilation is not { Site: { } site, Definition: { } definition })
            {
                FindingView.Write(Terminal.Error(), SiteReport.Of(compilation.Findings, compilation.Definition));
                throw new CommandException(
                    compilation.SourceIsAway ? ExitCodes.CannotReach : ExitCodes.Findings,
                    $"{file} makes no site, so there is nothing to sweep."
                );
            }

            CheckOnly(limits, definition);
            using var marks = SweepMarkFile.Open(state, file, compilation.Bytes.Span, Settings(limits), TimeProvider.System);
            var sweep = new Sweep(site, definition, limits, FolderFiles.Has, TimeProvider.System);
            return await SweepAsync(sweep, compilation, limits, marks, resume, cancellation);
        }
        catch (Exception refused) when (refused is StartException or IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    /// <summary>What must be the same for a sweep to go on where another ended.</summary>
    private static string Settings(SweepLimits limits) =>
        $"{limits.Examples} {limits.Rows} {string.Join(',', limits.Only.Order(StringComparer.Ordinal))}";

    private static void CheckOnly(SweepLimits limits, AppDefinition definition)
    {
        var names = definition
            .Pages.Select(page => page.Name.Value)
            .Concat(definition.Records.Select(record => record.Name.Value));
        foreach (var name in limits.Only.Where(name => !names.Contains(name)))
            throw new CommandException(
                ExitCodes.WrongUse,
                $"--only: the app file has no page and no record “{name}”."
                    + (Nearest.To(name, names) is { } nearest ? $" Do you mean {nearest}?" : "")
            );
    }

    private static async Task<ProofReport> SweepAsync(
        Sweep sweep,
        Compilation compilation,
        SweepLimits limits,
        SweepMarkFile marks,
        bool resume,
        CancellationToken cancellation
    )
    {
        var (started, begun) = (TimeProvider.System.GetUtcNow(), TimeProvider.System.GetTimestamp());
        var from = (resume ? marks.Read() : null) ?? SweepMark.Start;
        var result = await WorkBar.RunAsync(await sweep.CountAsync(cancellation), tell =>
            sweep.RunAsync(
                from,
                progress => tell($"{progress.Part}, {progress.Rows:N0} rows", progress.Rows),
                marks.Save,
                cancellation
            )
        );
        if (result.NotRead.Count == 0)
            marks.Remove();
        var isWhole = result.NotRead.Count == 0 && limits.Only.Count == 0;
        return new ProofReport(
            "sweep",
            compilation.Definition!.File,
            ReportWords.Version,
            started,
            TimeProvider.System.GetElapsedTime(begun).TotalSeconds,
            [
                new ProofFigure(
                    "records",
                    result
                        .Parts.Where(part => !part.Part.StartsWith(SweepPart.OfPage, StringComparison.Ordinal))
                        .Sum(part => part.Rows)
                ),
                new ProofFigure(
                    "rows on pages",
                    result
                        .Parts.Where(part => part.Part.StartsWith(SweepPart.OfPage, StringComparison.Ordinal))
                        .Sum(part => part.Rows)
                ),
                new ProofFigure("links built and read back", result.Links),
                new ProofFigure("records looked for", result.Lookups),
            ],
            [.. result.NotRead.Select(part => new ProofGap(part.Part, part.Why, part.IsChosen))],
            Findings(result, compilation.Definition, isWhole),
            null
        )
        {
            Parts = [.. result.Parts.Select(part => new ProofFigure(part.Part, part.Rows))],
        };
    }

    /// <summary>The faults with the severities of the app file.</summary>
    /// <param name="isWhole">Whether everything was read, so that what was not met is not there.</param>
    private static List<ProofFinding> Findings(SweepResult result, AppDefinition definition, bool isWhole)
    {
        var settings = new FindingSettings(definition.Settings);
        var findings = new List<ProofFinding>();
        foreach (var fault in result.Faults)
            if (settings.Of(fault.Code, definition.PageAt(fault.At), definition.RecordAt(fault.At), fault.About) is { } code)
                findings.Add(FindingReport.Of(fault with { Code = code }, definition));
        if (isWhole)
            findings.AddRange(settings.Unused(FindingCodes.IsMetBySweep).Select(one => FindingReport.Of(one, definition)));
        return findings;
    }
}
