using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Invocation;
using Jexa.Cli.Output;

namespace Jexa.Cli.Commands;

/// <summary>The usual help, followed by a command's examples and the exit codes.</summary>
internal sealed class ExampleHelp(HelpAction usual) : SynchronousCommandLineAction
{
    public override int Invoke(ParseResult parseResult)
    {
        usual.Invoke(parseResult);
        var output = parseResult.InvocationConfiguration.Output;
        var examples = parseResult.CommandResult.Command is ExampleCommand command
            ? command.Examples
            : ["jexa demo", "jexa check app.yaml", "jexa serve app.yaml", "jexa trace /bridges/7"];
        output.WriteLine("Examples:");
        foreach (var example in examples)
            output.WriteLine($"  {example}");
        output.WriteLine();
        output.WriteLine("Exit codes:");
        output.WriteLine(
            "  0 fine, 1 findings or a bad outcome, 2 wrong use, 3 the service or a source cannot be "
                + "reached, 4 a fault of Jexa's own"
        );
        return ExitCodes.Fine;
    }
}
