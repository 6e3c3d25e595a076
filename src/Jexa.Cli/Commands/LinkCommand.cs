using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Service.Management;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa link PAGE name=value…</c>: the address of a page for given values.</summary>
internal static class LinkCommand
{
    public static Command Create()
    {
        var page = new Argument<string>("PAGE") { Description = "The page's name in the app file" };
        var values = new Argument<string[]>("name=value")
        {
            Description = "A value for each parameter of its path",
            Arity = ArgumentArity.ZeroOrMore,
        };
        var command = new ExampleCommand(
            "link",
            "Build the address of a page. The value is the ID itself; what an address needs encoded is encoded.",
            "jexa link bridge id=7",
            "jexa link district district=n/w-moor"
        )
        {
            page,
            values,
        };
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var request = new LinkRequest(parsed.GetValue(page)!, Values(parsed.GetValue(values) ?? []));
                using var client = open(parsed);
                var link = await client.PostAsync<LinkAnswer>("api/links", request, cancellation);
                if (parsed.GetValue(json))
                    Terminal.Json(link);
                else
                    Console.Out.WriteLine(link.Url);
                return ExitCodes.Fine;
            }
        );
        return command;
    }

    private static Dictionary<string, string> Values(IReadOnlyList<string> pairs)
    {
        var values = new Dictionary<string, string>();
        foreach (var pair in pairs)
        {
            var equals = pair.IndexOf('=');
            if (equals <= 0)
                throw new CommandException(ExitCodes.WrongUse, $"“{pair}” is not of the form name=value.");
            if (!values.TryAdd(pair[..equals], pair[(equals + 1)..]))
                throw new CommandException(ExitCodes.WrongUse, $"The parameter {pair[..equals]} is given twice.");
        }

        return values;
    }
}
