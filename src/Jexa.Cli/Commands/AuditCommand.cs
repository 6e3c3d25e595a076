using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Formats;
using Jexa.Service.Audit;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa audit URL</c>: examines the list and record pages of any web application, from outside.</summary>
internal static class AuditCommand
{
    public static Command Create()
    {
        var url = new Argument<string>("URL") { Description = "The address of a list, whatever it is written in" };
        url.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var text }] && !TextLinks.IsWebAddress(text))
                result.AddError($"“{text}” is not a web address.");
        });
        var command = new ExampleCommand(
            "audit",
            "Follow the links of any web application's list as a visitor would: does each lead to the record of its row, "
                + "and what do wrong IDs get? Reads only (GET), on one origin, and heeds robots.txt.",
            "jexa audit http://127.0.0.1:8080/bridges",
            "jexa audit https://register.example/list --header \"Cookie: session=...\" --rate 2 --report audit.html"
        )
        {
            url,
        };
        var limits = new AuditLimitOptions(command);
        var reports = new ReportOptions(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var compare = reports.Comparison(parsed);
                var list = new Uri(parsed.GetValue(url)!);
                var most = limits.Of(parsed);
                var report = await WorkBar.RunAsync(most.Requests, tell =>
                    AuditRun.OfAsync(list, most, TimeProvider.System, tell, CancellationToken.None, cancellation)
                );
                return reports.Finish(parsed, compare(report));
            }
        );
        return command;
    }
}
