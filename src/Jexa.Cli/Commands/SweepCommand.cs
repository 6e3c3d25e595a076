using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Proof;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
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
            "jexa sweep register.yaml --fetch 500 --url http://127.0.0.1:7440/",
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
        var url = CommonOptions.PagesUrl("Where --fetch asks for pages", "http://127.0.0.1:7440/");
        command.Add(url);
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
                    parsed.GetValue(url)!,
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
        string pages,
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
            var sweep = new SweepRun(site, definition, limits, TimeProvider.System);
            using var visitor = limits.Fetch > 0 ? PageVisitor.At(pages) : null;
            return await WorkBar.RunAsync(await sweep.CountAsync(cancellation), tell =>
                sweep.RunAsync(marks, resume, visitor, tell, cancellation)
            );
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
}
