using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Demo;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa demo into ENGINE CONNECTION</c>: copies the demo's data into a database of a server.</summary>
internal static class DemoIntoCommand
{
    private static readonly string Engines = string.Join(" or ", RegisterCopy.Engines);
    private static readonly Argument<string> Engine = new("ENGINE") { Description = Engines };

    private static readonly Argument<string> Connection = new("CONNECTION")
    {
        Description = "The database, as an app file writes it; $NAME in quotes of the shell keeps a password out of its history",
    };

    private static readonly Option<bool> Replace = new("--replace")
    {
        Description = "Take away a register that is there already, with all that was changed in it",
    };

    private static readonly Option<bool> AsJson = CommonOptions.Json();

    public static Command Create(Func<string> makeRegister)
    {
        var command = new ExampleCommand(
            "into",
            "Copy the demo's data into a database of a server. The demo's app file then serves it from "
                + "there with one line changed.",
            "jexa demo into postgresql \"Host=127.0.0.1;Database=valley;Username=warden;Password=$PASSWORD\"",
            "jexa demo into mariadb \"Server=127.0.0.1;Database=valley;User ID=warden;Password=$PASSWORD\" --replace"
        )
        {
            Engine,
            Connection,
            Replace,
            AsJson,
        };
        Engine.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var word }] && !RegisterCopy.Engines.Contains(word))
                result.AddError($"ENGINE must be {Engines}, not “{word}”.");
        });
        command.SetAction((parsed, cancellation) => RunAsync(makeRegister, parsed, cancellation));
        return command;
    }

    private static async Task<int> RunAsync(Func<string> makeRegister, ParseResult parsed, CancellationToken cancellation)
    {
        var (to, where) = (parsed.GetValue(Engine)!, parsed.GetValue(Connection)!);
        try
        {
            var rows = await CopyAsync(makeRegister(), to, where, parsed.GetValue(Replace), cancellation);
            if (parsed.GetValue(AsJson))
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
            throw new CommandException(ExitCodes.CannotReach, $"The register cannot be copied there: {refused.Message}", refused);
        }
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
