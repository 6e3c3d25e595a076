using System.CommandLine;
using System.CommandLine.Parsing;
using System.Net;
using System.Runtime.InteropServices;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
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
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var command = new ExampleCommand(
            "serve",
            "Serve the pages of an app file.",
            "jexa serve register.yaml",
            "jexa serve register.yaml --port 8080 --state /var/lib/jexa",
            "jexa serve register.yaml --below /register --host data.example.org --proxy 127.0.0.1"
        )
        {
            file,
        };
        var options = AddOptions(command);
        command.SetAction((parsed, cancellation) => RunAsync(options(parsed, parsed.GetValue(file)!), cancellation));
        return command;
    }

    /// <summary>Adds the options of serving. Returns their reader.</summary>
    public static Func<ParseResult, string, ServiceOptions> AddOptions(Command command)
    {
        var port = CommonOptions.Port("Port of the pages");
        var consolePort = CommonOptions.ConsolePort();
        var state = CommonOptions.State();
        var log = CommonOptions.Word<LogDetail>(
            "--log",
            "What is logged, on standard error: none, trouble (where left out), or visits (one line each as well)",
            "WHAT"
        );
        var logForm = CommonOptions.Word<LogForm>(
            "--log-form",
            "How log lines are written: text (where left out) or json",
            "FORM"
        );
        var collector = new Option<string?>("--telemetry")
        {
            Description =
                "URL of an OpenTelemetry collector that is told of every visit, over OTLP by HTTP; "
                + "OTEL_EXPORTER_OTLP_ENDPOINT where left out",
            HelpName = "URL",
            DefaultValueFactory = _ =>
                Environment.GetEnvironmentVariable("OTEL_EXPORTER_OTLP_ENDPOINT") is { Length: > 0 } url ? url : null,
        };
        collector.Validators.Add(CheckCollector);
        var below = new Option<string>("--below")
        {
            Description = "Path prefix that the pages stand below, behind a proxy",
            DefaultValueFactory = _ => "",
            HelpName = "PATH",
        };
        below.Validators.Add(CheckMount);
        var host = new Option<string[]>("--host")
        {
            Description = "Host name that the pages answer to besides 127.0.0.1 and localhost; may be repeated",
            HelpName = "NAME",
        };
        host.Validators.Add(CheckHosts);
        var proxy = new Option<string[]>("--proxy")
        {
            Description = "Address of a proxy whose X-Forwarded-For and X-Forwarded-Host count; may be repeated",
            HelpName = "ADDRESS",
        };
        proxy.Validators.Add(CheckAddresses);
        var listen = new Option<string[]>("--listen")
        {
            Description =
                "Address of this machine that the pages listen on, such as 0.0.0.0 or ::; 127.0.0.1 where left "
                + "out; may be repeated",
            HelpName = "ADDRESS",
        };
        listen.Validators.Add(CheckAddresses);
        var keep = new Option<int?>("--changes-keep")
        {
            Description = "For how many days the change log keeps changes; for ever where left out",
            HelpName = "DAYS",
        };
        keep.Validators.Add(CheckDays);
        foreach (var option in (Option[])[port, consolePort, listen, state, keep, log, logForm, collector, below, host, proxy])
            command.Add(option);
        return (parsed, file) =>
        {
            var pages = parsed.GetValue(port);
            return new ServiceOptions(
                file,
                pages,
                parsed.GetValue(consolePort) ?? (pages is 0 or 65535 ? 0 : pages + 1),
                parsed.GetValue(state),
                parsed.GetValue(log) ?? LogDetail.Trouble
            )
            {
                Mount = Mount.Parse(parsed.GetValue(below)!)!,
                Hosts = parsed.GetValue(host) ?? [],
                LogForm = parsed.GetValue(logForm) ?? LogForm.Text,
                Collector = parsed.GetValue(collector) is { } url ? new Uri(url) : null,
                Proxies = [.. (parsed.GetValue(proxy) ?? []).Select(IPAddress.Parse)],
                Listen = [.. (parsed.GetValue(listen) ?? []).Select(IPAddress.Parse).Distinct()],
                ChangesKept = parsed.GetValue(keep) is { } days ? TimeSpan.FromDays(days) : null,
            };
        };
    }

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
        var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(options, sources, ending.Token);
            var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
            FindingView.Write(Terminal.Error(), [.. findings.Where(finding => finding.Severity != "hint")]);
            if (compilation.Site is null)
            {
                await Console.Error.WriteLineAsync($"jexa: {options.AppFile} cannot be served: {FindingView.Count(findings)}.");
                await sources.DisposeAsync();
                return compilation.SourceIsAway ? ExitCodes.CannotReach : ExitCodes.Findings;
            }

            await using var service = await JexaService.StartAsync(compilation, sources, options, ending.Token);
            started?.Invoke(service);
            if (compilation.Site.Waiting.Count is > 0 and var waiting)
                await Console.Error.WriteLineAsync(
                    $"jexa: {waiting} of {waiting + compilation.Site.Pages.Count} pages wait for a source that is "
                        + "away; until it answers, so do they: 503."
                );
            if (service.OnlyReads is { } reason)
                await Console.Error.WriteLineAsync(
                    $"jexa: pages are served, but nothing can be changed through them: {Terminal.Lines(reason)}"
                );
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

    private static void CheckMount(OptionResult result)
    {
        if (result.Tokens is [{ Value: var text }] && Mount.Parse(text) is null)
            result.AddError($"--below must be a path such as /register, of letters, digits and - . _ ~, not “{text}”.");
    }

    private static void CheckHosts(OptionResult result)
    {
        foreach (var token in result.Tokens)
            if (
                Uri.CheckHostName(token.Value.Split(':')[0]) == UriHostNameType.Unknown
                || !Uri.TryCreate($"http://{token.Value}/", UriKind.Absolute, out var uri)
                || uri.PathAndQuery != "/"
                || uri.UserInfo.Length > 0
            )
                result.AddError($"--host must be a host name, with a port where visitors write one, not “{token.Value}”.");
    }

    private static void CheckCollector(OptionResult result)
    {
        if (
            result.GetValueOrDefault<string?>() is { } text
            && (!Uri.TryCreate(text, UriKind.Absolute, out var url) || url.Scheme is not ("http" or "https"))
        )
            result.AddError($"--telemetry must be a URL such as http://127.0.0.1:4318, not “{text}”.");
    }

    private static void CheckAddresses(OptionResult result)
    {
        foreach (var token in result.Tokens)
            if (!IPAddress.TryParse(token.Value, out _))
                result.AddError($"{result.Option.Name} must be an IP address, not “{token.Value}”.");
    }

    private static void CheckDays(OptionResult result)
    {
        if (result.Tokens is [{ Value: var text }] && (!int.TryParse(text, out var days) || days is < 1 or > 36_500))
            result.AddError($"--changes-keep must be a number of days from 1 to 36500, not “{text}”.");
    }

    private static void Announce(string app, JexaService service)
    {
        var console = Terminal.Out();
        console.MarkupLine($"[bold]{Terminal.Escaped(app)}[/] is being served. Ctrl-C ends it.");
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
