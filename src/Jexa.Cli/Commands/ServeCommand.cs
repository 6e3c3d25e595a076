using System.CommandLine;
using System.Runtime.InteropServices;
using Jexa.Cli.Output;
using Jexa.Service;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa serve APP_FILE</c>: serves an app until a signal ends it.</summary>
internal static class ServeCommand
{
    public static Command Create()
    {
        var file = new Argument<string?>("APP_FILE")
        {
            Description = $"The app file; {UsualFile} in this folder if omitted, which the console helps to make",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new ExampleCommand(
            "serve",
            "Serve the pages of an app file.",
            "jexa serve",
            "jexa serve register.yaml",
            "jexa serve register.yaml --fresh",
            "jexa serve register.yaml --port 8080 --state /var/lib/jexa",
            "jexa serve register.yaml --below /register --host data.example.org --proxy 127.0.0.1"
        )
        {
            file,
        };
        var options = new ServeOptions();
        options.AddTo(command);
        command.SetAction(
            (parsed, cancellation) =>
            {
                var named = parsed.GetValue(file);
                return RunAsync(options.Read(parsed, named ?? UsualFile) with { MayBegin = named is null }, cancellation);
            }
        );
        return command;
    }

    /// <summary>The app file that is served if none is named.</summary>
    public const string UsualFile = "app.yaml";

    /// <param name="started">Called when the service runs.</param>
    public static async Task<int> RunAsync(
        ServiceOptions options,
        CancellationToken cancellation,
        Action<JexaService>? started = null
    )
    {
        using var ending = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        using var terminate = PosixSignalRegistration.Create(PosixSignal.SIGTERM, End);
        using var interrupt = PosixSignalRegistration.Create(PosixSignal.SIGINT, End);
        try
        {
            return await ServeAsync(options, started, ending.Token);
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

    /// <summary>Compiles the app and serves it until the token is cancelled.</summary>
    private static async Task<int> ServeAsync(ServiceOptions options, Action<JexaService>? started, CancellationToken ending)
    {
        var sources = SourceEngines.Open();
        var isFresh = options.MayBegin && !File.Exists(options.AppFile);
        var compilation = isFresh
            ? await EmptyApp.CompileAsync(AppFileCompiler.Over(sources, options), options.AppFile, ending)
            : await AppFileCompiler.CompileAsync(options, sources, ending);
        var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
        FindingView.Write(Terminal.Error(), [.. findings.Where(finding => finding.Severity != "hint")]);
        if (compilation.Site is not { } site)
        {
            await Console.Error.WriteLineAsync($"jexa: {options.AppFile} cannot be served: {FindingView.Count(findings)}.");
            await sources.DisposeAsync();
            return compilation.SourceIsAway ? ExitCodes.CannotReach : ExitCodes.Findings;
        }

        await using var service = await JexaService.StartAsync(compilation, sources, options, ending);
        started?.Invoke(service);
        if (site.Waiting.Count is > 0 and var waiting)
            await Console.Error.WriteLineAsync(
                $"jexa: {waiting} of {waiting + site.Pages.Count} pages wait for a source that is away. They answer 503 "
                    + "until it is back."
            );
        if (service.OnlyReads is { } reason)
            await Console.Error.WriteLineAsync(
                $"jexa: pages are served, but nothing can be changed through them: {Terminal.Lines(reason)}"
            );
        Announce(isFresh ? null : site.Frame.AppTitle, service);
        await WaitAsync(ending);
        return ExitCodes.Fine;
    }

    /// <param name="app">The app's name; null if there is no app file yet.</param>
    private static void Announce(string? app, JexaService service)
    {
        var console = Terminal.Out();
        console.MarkupLine(
            app is null
                ? $"There is no {UsualFile} in this folder yet. Open the console to make one. Ctrl-C ends it."
                : $"[bold]{Terminal.Escaped(app)}[/] is being served. Ctrl-C ends it."
        );
        console.MarkupLine($"  pages    {Terminal.Escaped(service.PagesUrl)}");
        console.MarkupLine($"  console  {Terminal.Escaped(service.ConsoleStartUrl)}");
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
            // This is what it waited for.
        }
    }
}
