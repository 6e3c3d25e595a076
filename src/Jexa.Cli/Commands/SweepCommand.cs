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
        var instead = Instead();
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
                var wanted = new Wanted(
                    parsed.GetValue(file)!,
                    limits.Of(parsed),
                    parsed.GetValue(resume),
                    parsed.GetValue(state),
                    Connections(parsed.GetValue(instead) ?? []),
                    parsed.GetValue(url)!
                );
                var report = await RunAsync(wanted, cancellation);
                return reports.Finish(parsed, compare(report));
            }
        );
        return command;
    }

    private static Option<string[]> Instead()
    {
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
        return instead;
    }

    private static Dictionary<string, string> Connections(string[] pairs)
    {
        var connections = new Dictionary<string, string>();
        foreach (var pair in pairs)
            connections[pair[..pair.IndexOf('=')]] = pair[(pair.IndexOf('=') + 1)..];
        return connections;
    }

    /// <param name="Resume">Whether it goes on where the last one was ended.</param>
    /// <param name="State">Folder that keeps how far it has come; null for the usual one.</param>
    /// <param name="Connections">Other connections of sources, by their names.</param>
    /// <param name="Pages">Where the pages are.</param>
    private sealed record Wanted(
        string File,
        SweepLimits Limits,
        bool Resume,
        string? State,
        IReadOnlyDictionary<string, string> Connections,
        string Pages
    );

    private static async Task<ProofReport> RunAsync(Wanted wanted, CancellationToken cancellation)
    {
        var (file, limits) = (wanted.File, wanted.Limits);
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler
                .Over(sources, Mount.Root, wanted.Connections)
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
            var time = TimeProvider.System;
            using var marks = SweepMarkFile.Open(wanted.State, file, compilation.Bytes.Span, limits.Settings, time);
            var sweep = new SweepRun(site, definition, limits, time, CancellationToken.None);
            using var visitor = limits.Fetch > 0 ? PageVisitor.At(wanted.Pages) : null;
            return await WorkBar.RunAsync(await sweep.CountAsync(cancellation), tell =>
                sweep.RunAsync(marks, wanted.Resume, visitor, tell, cancellation)
            );
        }
        catch (Exception refused) when (refused is StartException or IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

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
