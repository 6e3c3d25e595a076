using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Service.Management;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa console</c>: a URL that opens the running service's console, signed in.</summary>
internal static class ConsoleCommand
{
    public static Command Create()
    {
        var command = new ExampleCommand(
            "console",
            "Print a URL that opens the console of the running service, signed in. It works once within ten "
                + "minutes; ask again for another browser or tab.",
            "jexa console",
            "jexa console --port 8080",
            "jexa console --renew"
        );
        var renew = new Option<bool>("--renew")
        {
            Description = "Make a new token first: consoles and programs with the old one are signed out",
        };
        command.Add(renew);
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                using var client = open(parsed);
                var console = await client.PostAsync<ConsoleInfo>(
                    parsed.GetValue(renew) ? "api/token" : "api/console",
                    new { },
                    cancellation
                );
                if (parsed.GetValue(json))
                    Terminal.Json(console);
                else
                    await Console.Out.WriteLineAsync(console.Url);
                return ExitCodes.Fine;
            }
        );
        return command;
    }
}
