using System.CommandLine;
using System.Runtime.InteropServices;
using Jexa.Cli.Output;
using Jexa.Service;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa serve APP_FILE</c>: serves an app until a signal ends it.</summary>
internal static class ServeCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var command = new ExampleCommand("serve",
            "Serve the pages of an app file.",
            "jexa serve register.yaml",
            "jexa serve register.yaml --port 8080 --state /var/lib/jexa")
        {
            file,
        };
        var options = AddOptions(command);
        command.SetAction((parsed, cancellation) => RunAsync(options(parsed, parsed.GetValue(file)!), cancellation));
        return command;
    }

    /// <summary>Adds the options of serving; gives the reader of them.</summary>
    public static Func<ParseResult, string, ServiceOptions> AddOptions(Command command)
    {
        var port = CommonOptions.Port("Port of the pages");
        var consolePort = CommonOptions.ConsolePort();
        var state = CommonOptions.State();
        var log = new Option<LogDetail>("--log")
        {
            Description = "What is logged, on standard error: none, trouble, or visits (one line each as well)",
            DefaultValueFactory = _ => LogDetail.Trouble,
            HelpName = "WHAT",
        };
        command.Add(port);
        command.Add(consolePort);
        command.Add(state);
        command.Add(log);
        return (parsed, file) =>
        {
            var pages = parsed.GetValue(port);
            return new ServiceOptions(file, pages, parsed.GetValue(consolePort) ?? (pages is 0 or 65535 ? 0 : pages + 1), parsed.GetValue(state),
                parsed.GetValue(log));
        };
    }

    public static async Task<int> RunAsync(ServiceOptions options, CancellationToken cancellation)
    {
        using var ending = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        using var terminate = PosixSignalRegistration.Create(PosixSignal.SIGTERM, End);
        using var interrupt = PosixSignalRegistration.Create(PosixSignal.SIGINT, End);
        var sources = JexaService.OpenSources();
        try
        {
            var compilation = await JexaService.CompileAsync(options.AppFile, sources, ending.Token);
            var findings = compilation.Findings.Select(TraceReport.Of).ToList();
            FindingView.Write(Terminal.Error(), findings);
            if (compilation.Site is null)
            {
                await Console.Error.WriteLineAsync($"jexa: {options.AppFile} cannot be served: {FindingView.Count(findings)}.");
                await sources.DisposeAsync();
                return compilation.SourceIsAway ? ExitCodes.CannotReach : ExitCodes.Findings;
            }

            await using var service = await JexaService.StartAsync(compilation.Site, sources, options, ending.Token);
            Announce(compilation.Site.Frame.AppTitle, service);
            await WaitAsync(ending.Token);
            return ExitCodes.Fine;
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
        catch (OperationCanceledException) when (ending.IsCancellationRequested)
        {
            return ExitCodes.Fine;
        }

        void End(PosixSignalContext signal)
        {
            signal.Cancel = true;
            ending.Cancel();
        }
    }

    private static void Announce(string app, JexaService service)
    {
        var console = Terminal.Out();
        console.MarkupLine($"[bold]{Markup.Escape(app)}[/] is being served. Ctrl-C ends it.");
        console.MarkupLine($"  pages    {Markup.Escape(service.PagesUrl)}");
        console.MarkupLine($"  console  {Markup.Escape(service.ConsoleStartUrl)}");
        Console.Out.Flush();
    }

    private static async Task WaitAsync(CancellationToken ending)
    {
        try
        {
            await Task.Delay(Timeout.Infinite, ending);
        }
        catch (OperationCanceledException)
        {
            // That is what it waited for.
        }
    }
}
