using System.CommandLine;
using Jexa.Cli.Client;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Service.Health;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa sources [APP_FILE]</c>: each source of an app: whether it answers, how fast, and what it can do.</summary>
internal static class SourcesCommand
{
    public static Command Create()
    {
        var file = new Argument<string?>("APP_FILE")
        {
            Description = "An app file to look at by itself; if omitted, the running service is asked",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new ExampleCommand(
            "sources",
            "Say of each source whether it is there, how fast it answers, what it holds and whether it can "
                + "be changed. Of the running service, or of an app file by itself.",
            "jexa sources",
            "jexa sources --port 8080 --json",
            "jexa sources register.yaml"
        )
        {
            file,
        };
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var sources = parsed.GetValue(file) is { } named
                    ? await OfFileAsync(named, cancellation)
                    : await OfServiceAsync(open(parsed), cancellation);
                if (parsed.GetValue(json))
                    Terminal.Json(sources);
                else
                    Write(sources);
                return sources.All(source => source.Reachable) ? ExitCodes.Fine : ExitCodes.CannotReach;
            }
        );
        return command;
    }

    private static async Task<IReadOnlyList<SourceInfo>> OfServiceAsync(ManagementClient service, CancellationToken cancellation)
    {
        using var client = service;
        return await client.GetAsync<IReadOnlyList<SourceInfo>>("api/sources", cancellation);
    }

    private static async Task<IReadOnlyList<SourceInfo>> OfFileAsync(string file, CancellationToken cancellation)
    {
        await using var registry = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(file, registry, Mount.Root, cancellation);
            if (compilation.Definition is not { } app)
                throw new CommandException(ExitCodes.Findings, $"{file} cannot be read; jexa check {file} says more.");
            // The first answer includes the program's own start. The second shows how fast the source is.
            foreach (var source in compilation.Sources.Where(source => source is { Source: not null, Absence: null }))
                await new SourceProbes(TimeProvider.System).LookAsync(source.Source!);
            return await SourceReport.LookAsync(
                compilation.Sources,
                app,
                compilation.Site?.Waiting ?? [],
                new SourceProbes(TimeProvider.System)
            );
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static void Write(IReadOnlyList<SourceInfo> sources)
    {
        var table = Terminal.Table("source", "engine", "answers", "tables", "changes", "pages");
        foreach (var source in sources)
            table.AddRow(
                Terminal.Escaped(source.Name),
                Terminal.Escaped(source.Engine),
                source.Reachable ? $"[green]in {source.Milliseconds:0.##} ms[/]" : "[red]not[/]",
                source.Known ? source.Tables.Count.ToString() : "-",
                source.Changes switch
                {
                    true => "yes",
                    false => "no",
                    _ => "-",
                },
                source.Waiting == 0 ? source.Pages.Count.ToString() : $"{source.Pages.Count}, [yellow]{source.Waiting} waiting[/]"
            );
        var console = Terminal.Out();
        console.Write(table);
        foreach (var source in sources)
        {
            if (source.Trouble is { } trouble)
                console.WriteLine($"{source.Name}: {Terminal.Shown(trouble)}");
            else if (source.ReadOnlyBecause is { } because)
                console.WriteLine($"{source.Name}: nothing can be changed there, as {Terminal.Shown(because)}.");
            foreach (var note in source.Notes)
                console.WriteLine($"{source.Name}: {Terminal.Shown(note)}");
        }
    }
}
