using Jexa.Cli.Language;
using Jexa.Cli.Output;
using Jexa.Service.Hosting;
using StreamJsonRpc;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa language-server</c>: serves an editor over standard input and output.</summary>
internal static class LanguageServerCommand
{
    public static ExampleCommand Create()
    {
        var command = new ExampleCommand(
            "language-server",
            "Serve an editor by the Language Server Protocol, over standard input and output: findings as one types, completion, "
                + "hover, definitions, references, renames and remedies for app files.",
            "jexa language-server"
        );
        command.SetAction(async (_, cancellation) => await RunAsync(cancellation));
        return command;
    }

    private static async Task<int> RunAsync(CancellationToken cancellation)
    {
        await using var sources = SourceEngines.Open();
        using var server = new LanguageServer(sources);
        var formatter = new SystemTextJsonFormatter();
        await using var output = Console.OpenStandardOutput();
        await using var input = Console.OpenStandardInput();
        using var rpc = new JsonRpc(new HeaderDelimitedMessageHandler(output, input, formatter), server);
        server.Client = rpc;
        rpc.StartListening();
        // An editor that is killed closes the stream and says nothing.
        await Task.WhenAny(server.Ended, rpc.Completion, Task.Delay(Timeout.Infinite, cancellation));
        return ExitCodes.Fine;
    }
}
