using System.CommandLine;
using Jexa.Cli.Client;
using Jexa.Cli.Output;
using Jexa.Service.Management;
using Jexa.Service.Proof;
using Jexa.Service.Traces;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa probe</c>: asks a running service for every page by right and wrong IDs.</summary>
internal static class ProbeCommand
{
    private const int UsualRate = 50;

    public static Command Create()
    {
        var command = new ExampleCommand(
            "probe",
            "Ask the running service for every page by right and wrong IDs, as HTML, as JSON and by HEAD, and say which answers "
                + "are not what the app file asks for. Changes nothing.",
            "jexa probe",
            "jexa probe --port 8080 --report probe.html --report probe.xml",
            "jexa probe --only bridge --url https://register.example/ --rate 5",
            "JEXA_TOKEN=… jexa probe --api http://127.0.0.1:17441/ --url https://register.example/"
        );
        var (only, url, rate) = (
            Only(),
            CommonOptions.PagesUrl("Where visitors reach the pages, if that is another address: behind a proxy, for example"),
            Rate()
        );
        command.Add(only);
        command.Add(url);
        command.Add(rate);
        var api = CommonOptions.Url(
            "--api",
            "The management API of a service on another machine, through a tunnel; its token is in JEXA_TOKEN"
        );
        command.Add(api);
        var reports = new ReportOptions(command);
        var open = CommonOptions.ClientOf(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var compare = reports.Comparison(parsed);
                using var client = parsed.GetValue(api) is { } at ? ManagementClient.OpenAt(at) : open(parsed);
                var pages = (parsed.GetValue(only) ?? []).ToHashSet();
                var pause = TimeSpan.FromSeconds(1.0 / parsed.GetValue(rate));
                var report = await RunAsync(client, pages, parsed.GetValue(url), pause, cancellation);
                return reports.Finish(parsed, compare(report));
            }
        );
        return command;
    }

    private static Option<string[]> Only()
    {
        var option = new Option<string[]>("--only")
        {
            Description = "Only these pages, by their names in the app file",
            HelpName = "PAGE",
            AllowMultipleArgumentsPerToken = true,
        };
        return option;
    }

    private static Option<int> Rate()
    {
        var option = new Option<int>("--rate")
        {
            Description = "The most requests a second",
            HelpName = "N",
            DefaultValueFactory = _ => UsualRate,
        };
        option.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var text }] && (!int.TryParse(text, out var number) || number is < 1 or > 10_000))
                result.AddError($"--rate must be a whole number from 1 to 10,000, not “{text}”.");
        });
        return option;
    }

    private static async Task<ProofReport> RunAsync(
        ManagementClient client,
        HashSet<string> only,
        string? url,
        TimeSpan pause,
        CancellationToken cancellation
    )
    {
        var site = await client.GetAsync<SiteInfo>("api/site", cancellation);
        var pages = await client.GetAsync<IReadOnlyList<PageInfo>>("api/pages", cancellation);
        foreach (var name in only.Where(name => pages.All(page => page.Name != name)))
            throw new CommandException(
                ExitCodes.WrongUse,
                $"--only: the service has no page “{name}”."
                    + (
                        Core.Definitions.Nearest.To(name, pages.Select(page => page.Name)) is { } near
                            ? $" Do you mean {near}?"
                            : ""
                    )
            );
        var asked = await client.GetAsync<ProbeInfo>("api/probe-cases", cancellation);
        using var http = PageVisitor.At(url ?? site.PagesUrl);
        var run = new ProbeRun(
            site.File,
            [.. pages.Select(page => new ProbedPage(page.Name, page.Record, page.Line))],
            asked,
            only,
            TimeProvider.System
        );
        var probe = new Probe(http, asked.Below, visit => TraceAsync(client, visit, cancellation), pause);
        try
        {
            return await WorkBar.RunAsync(run.Names.Count, tell =>
                run.RunAsync(probe, tell, CancellationToken.None, cancellation)
            );
        }
        catch (Exception gone)
            when (gone is HttpRequestException or TaskCanceledException && !cancellation.IsCancellationRequested)
        {
            throw new CommandException(ExitCodes.CannotReach, $"{http.BaseAddress} does not answer: {gone.Message}", gone);
        }
    }

    /// <summary>What the service says of a visit: its outcome and the reason.</summary>
    private static async Task<string?> TraceAsync(ManagementClient client, string visit, CancellationToken cancellation)
    {
        try
        {
            var trace = await client.GetAsync<TraceInfo>($"api/visits/{Uri.EscapeDataString(visit)}", cancellation);
            return trace.Short;
        }
        catch (CommandException)
        {
            return null;
        }
    }
}
