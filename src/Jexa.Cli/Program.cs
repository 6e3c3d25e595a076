using System.CommandLine;
using System.CommandLine.Help;
using System.Globalization;
using Jexa.Cli.Commands;
using Jexa.Cli.Output;

namespace Jexa.Cli;

/// <summary>The command line: starts the service, or talks to it.</summary>
internal static class Program
{
    public static async Task<int> Main(string[] args)
    {
        // An app names its locale itself. The machine's locale changes nothing in pages, logs and commands.
        CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var root = new RootCommand(
            "Serves the list and detail pages that an app file describes, explains every visit, and checks every link."
        )
        {
            DemoCommand.Create(),
            ServeCommand.Create(),
            DraftCommand.Create(),
            SourcesCommand.Create(),
            CheckCommand.Create(),
            SweepCommand.Create(),
            ProbeCommand.Create(),
            AuditCommand.Create(),
            BodyCommand.Create(),
            ClientCommand.Create(),
            PagesCommand.Create(),
            LinkCommand.Create(),
            TraceCommand.Create(),
            ChangesCommand.Create(),
            AppCommand.Create(),
            ConsoleCommand.Create(),
            LanguageServerCommand.Create(),
        };
        var help = root.Options.OfType<HelpOption>().Single();
        help.Action = new ExampleHelp((HelpAction)help.Action!);
        var parsed = root.Parse(args, new ParserConfiguration { ResponseFileTokenReplacer = null });
        if (parsed.Errors.Count > 0 && parsed.Action is not ExampleHelp)
            return WrongUse(parsed);

        try
        {
            // On a signal the service ends in its own time. The default would end it after two seconds.
            return await parsed.InvokeAsync(
                new InvocationConfiguration { EnableDefaultExceptionHandler = false, ProcessTerminationTimeout = null }
            );
        }
        catch (CommandException refused)
        {
            await Console.Error.WriteLineAsync($"jexa: {Terminal.Lines(refused.Message)}");
            return refused.ExitCode;
        }
        catch (Exception unforeseen) when (unforeseen is not OperationCanceledException)
        {
            await Console.Error.WriteLineAsync(
                $"jexa: something unforeseen happened ({unforeseen.GetType().Name}): {Terminal.Lines(unforeseen.Message)}"
            );
            return ExitCodes.Unforeseen;
        }
    }

    private static int WrongUse(ParseResult parsed)
    {
        foreach (var error in parsed.Errors.Select(error => error.Message).Distinct())
            Console.Error.WriteLine($"jexa: {Terminal.Lines(error)}");
        var command = parsed.CommandResult.Command is RootCommand ? "" : " " + parsed.CommandResult.Command.Name;
        Console.Error.WriteLine($"See jexa{command} --help.");
        return ExitCodes.WrongUse;
    }
}
