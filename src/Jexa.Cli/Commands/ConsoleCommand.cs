using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Service.Hosting;
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
                + "minutes; ask again for another browser or tab. In an empty folder without a service it starts one, whose "
                + "console leads to a first app file.",
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
                try
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
                catch (CommandException none)
                    when (none.ExitCode == ExitCodes.CannotReach && !parsed.GetValue(json) && !parsed.GetValue(renew) && IsEmpty()
                    )
                {
                    // In an empty folder there is nothing to serve yet: the console leads to a first app file.
                    var port = parsed.GetValue<int>("--port");
                    var options = new ServiceOptions(
                        ServeCommand.UsualFile,
                        port,
                        port == 0 ? 0 : port + 1,
                        parsed.GetValue<string?>("--state"),
                        LogDetail.Trouble
                    );
                    return await ServeCommand.RunAsync(options with { MayBegin = true }, cancellation);
                }
            }
        );
        return command;
    }

    /// <summary>Whether this folder has nothing but what could be a source.</summary>
    private static bool IsEmpty() =>
        Directory
            .EnumerateFileSystemEntries(".")
            .All(entry => Path.GetExtension(entry) is ".db" or ".sqlite" or ".sqlite3" or ".csv" or ".json");
}
