using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Demo;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa demo into ENGINE CONNECTION</c>: copies the demo's data into a database of a server.</summary>
internal static class DemoIntoCommand
{
    public static Command Create(Func<string> makeRegister)
    {
        var engine = new Argument<string>("ENGINE") { Description = string.Join(" or ", RegisterCopy.Engines) };
        engine.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var word }] && !RegisterCopy.Engines.Contains(word))
                result.AddError($"ENGINE must be {string.Join(" or ", RegisterCopy.Engines)}, not “{word}”.");
        });
        var connection = new Argument<string>("CONNECTION")
        {
            Description =
                "The database, as an app file writes it; $NAME in quotes of the shell keeps a password out of its history",
        };
        var replace = new Option<bool>("--replace")
        {
            Description = "Take away a register that is there already, with all that was changed in it",
        };
        var json = CommonOptions.Json();
        var command = new ExampleCommand(
            "into",
            "Copy the demo's data into a database of a server. The demo's app file then serves it from "
                + "there with one line changed.",
            "jexa demo into postgresql \"Host=127.0.0.1;Database=valley;Username=warden;Password=$PASSWORD\"",
            "jexa demo into mariadb \"Server=127.0.0.1;Database=valley;User ID=warden;Password=$PASSWORD\" --replace"
        )
        {
            engine,
            connection,
            replace,
            json,
        };
        command.SetAction(
            async (parsed, cancellation) =>
            {
                try
                {
                    var (to, where) = (parsed.GetValue(engine)!, parsed.GetValue(connection)!);
                    var rows = await CopyAsync(makeRegister(), to, where, parsed.GetValue(replace), cancellation);
                    if (parsed.GetValue(json))
                        Console.WriteLine($"{{\"engine\":\"{to}\",\"rows\":{rows}}}");
                    else
                        Console.WriteLine(
                            $"{rows:N0} rows were copied. Serve them by this line of demo/bridges.yaml, with REGISTER set to "
                                + $"the connection:\n  register: {{ engine: {to}, connection: \"${{REGISTER}}\" }}"
                        );
                    return ExitCodes.Fine;
                }
                catch (CopyException refused)
                {
                    throw new CommandException(
                        ExitCodes.CannotReach,
                        $"The register cannot be copied there: {refused.Message}",
                        refused
                    );
                }
            }
        );
        return command;
    }

    private static async Task<long> CopyAsync(
        string file,
        string engine,
        string connection,
        bool replace,
        CancellationToken cancellation
    )
    {
        if (Terminal.Live() is not { } console)
            return await RegisterCopy.RunAsync(file, engine, connection, replace, (_, _, _) => { }, cancellation);
        return await console
            .Progress()
            .AutoClear(true)
            .Columns(new TaskDescriptionColumn(), new ProgressBarColumn(), new PercentageColumn(), new RemainingTimeColumn())
            .StartAsync(async shown =>
            {
                var task = shown.AddTask("tables");
                return await RegisterCopy.RunAsync(
                    file,
                    engine,
                    connection,
                    replace,
                    (table, done, total) =>
                    {
                        task.Description = table;
                        task.MaxValue = total;
                        task.Value = done;
                    },
                    cancellation
                );
            });
    }
}
