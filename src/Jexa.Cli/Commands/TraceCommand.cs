using System.CommandLine;
using System.Globalization;
using System.Text;
using Jexa.Cli.Client;
using Jexa.Cli.Output;
using Jexa.Service.Management;
using Jexa.Service.Traces;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa trace URL_OR_PATH</c>: the steps of a visit, tried now or made earlier.</summary>
internal static class TraceCommand
{
    public static Command Create()
    {
        var what = new Argument<string>("URL_OR_PATH")
        {
            Description = "An address of the app, or the number of a visit (the answer's Jexa-Visit header)",
        };
        var method = new Option<string?>("--method") { Description = "Try it with another method than GET", HelpName = "METHOD" };
        var accept = new Option<string?>("--accept") { Description = "Try it with this Accept header", HelpName = "TYPES" };
        var command = new ExampleCommand(
            "trace",
            "Show what a visit came to, or would come to, step by step: which page, which ID, which query, "
                + "which outcome. Trying an address leaves no visit behind.",
            "jexa trace /bridges/7",
            "jexa trace http://127.0.0.1:7440/bridges/007",
            "jexa trace 12",
            "jexa trace '/lookup?code=' --accept application/json"
        )
        {
            what,
            method,
            accept,
        };
        var (json, open) = CommonOptions.ForClient(command, parsed => PortOf(parsed.GetValue(what)!));
        command.SetAction(
            async (parsed, cancellation) =>
            {
                using var client = open(parsed);
                var asked = parsed.GetValue(what)!;
                var trace = await TraceAsync(client, asked, parsed.GetValue(method), parsed.GetValue(accept), cancellation);
                if (parsed.GetValue(json))
                    Terminal.Json(trace);
                else
                    TraceView.Write(Terminal.Out(), trace);
                return trace.Good ? ExitCodes.Fine : ExitCodes.Findings;
            }
        );
        return command;
    }

    private static Task<TraceInfo> TraceAsync(
        ManagementClient client,
        string asked,
        string? method,
        string? accept,
        CancellationToken cancellation
    ) =>
        long.TryParse(asked.TrimStart('#'), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? client.GetAsync<TraceInfo>($"api/visits/{number}", cancellation)
            : client.PostAsync<TraceInfo>("api/traces", new TraceRequest(Target(asked, client), method, accept), cancellation);

    /// <summary>A URL contains the port of the service.</summary>
    private static int? PortOf(string asked) =>
        Uri.TryCreate(asked, UriKind.Absolute, out var url) && (url.Scheme is "http" or "https") ? url.Port : null;

    /// <summary>The request target that a browser would send for what was typed. Path segments are not changed.</summary>
    private static string Target(string asked, ManagementClient client)
    {
        var target = asked;
        if (asked.Contains("://", StringComparison.Ordinal))
        {
            var pages = new Uri(client.Service.PagesUrl);
            if (
                !Uri.TryCreate(asked, UriKind.Absolute, out var url)
                || url.Port != pages.Port
                || url.Host is not ("127.0.0.1" or "localhost")
            )
                throw new CommandException(
                    ExitCodes.WrongUse,
                    $"{asked} is not an address of this service, whose pages are at {pages}."
                );
            var slash = asked.IndexOf('/', asked.IndexOf("://", StringComparison.Ordinal) + 3);
            target = slash < 0 ? "/" : asked[slash..];
        }
        else if (!asked.StartsWith('/'))
        {
            throw new CommandException(
                ExitCodes.WrongUse,
                $"“{asked}” is neither a path, which begins with a slash, nor a URL, nor the number of a visit."
            );
        }

        var fragment = target.IndexOf('#');
        if (fragment >= 0)
            target = target[..fragment];
        var sent = new StringBuilder();
        foreach (var rune in target.EnumerateRunes())
        {
            if (rune.Value is > ' ' and < 0x7f and not ('"' or '<' or '>'))
                sent.Append(rune);
            else
                sent.Append(Uri.EscapeDataString(rune.ToString()));
        }

        return sent.ToString();
    }
}
