using System.CommandLine;
using System.CommandLine.Parsing;
using System.Globalization;
using Jexa.Cli.Client;
using Jexa.Core.Formats;
using Jexa.Service.Hosting;

namespace Jexa.Cli.Commands;

/// <summary>Options that several commands share, with the same meaning everywhere.</summary>
internal static class CommonOptions
{
    public static Option<bool> Json() => new("--json") { Description = "Print JSON" };

    public static Option<int> Port(string description)
    {
        var option = new Option<int>("--port")
        {
            Description = description,
            DefaultValueFactory = _ => ServiceOptions.DefaultPort,
            HelpName = "PORT",
        };
        option.Validators.Add(CheckPort);
        return option;
    }

    public static Option<int?> ConsolePort()
    {
        var option = new Option<int?>("--console-port")
        {
            Description = "Port of console and management API; the one after the pages' if omitted",
            HelpName = "PORT",
        };
        option.Validators.Add(CheckPort);
        return option;
    }

    public static Option<string?> State() =>
        new("--state")
        {
            Description = "Folder of Jexa's own data; in the user's state folder, by port, if omitted",
            HelpName = "DIR",
        };

    /// <summary>The address where the pages are.</summary>
    /// <param name="usual">The address if it is left out; null for none.</param>
    public static Option<string?> PagesUrl(string description, string? usual = null) => Url("--url", description, usual);

    /// <summary>A web address.</summary>
    /// <param name="usual">The address if it is left out; null for none.</param>
    public static Option<string?> Url(string name, string description, string? usual = null)
    {
        var option = new Option<string?>(name) { Description = description, HelpName = "URL" };
        option.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var text }] && !TextLinks.IsWebAddress(text))
                result.AddError($"{name} must be a web address, not “{text}”.");
        });
        if (usual is not null)
            option.DefaultValueFactory = _ => usual;
        return option;
    }

    /// <summary>An option with one of a few words; null if it is left out.</summary>
    public static Option<TWord?> Word<TWord>(string name, string description, string helpName)
        where TWord : struct, Enum
    {
        var words = Enum.GetValues<TWord>().ToDictionary(value => value.ToString().ToLowerInvariant());
        return new Option<TWord?>(name)
        {
            Description = description,
            HelpName = helpName,
            CustomParser = result =>
            {
                if (words.TryGetValue(result.Tokens[0].Value, out var value))
                    return value;
                result.AddError($"{name} must be {string.Join(" or ", words.Keys)}, not “{result.Tokens[0].Value}”.");
                return null;
            },
        };
    }

    /// <summary>The options of a command that calls a running service, and the client for it.</summary>
    /// <param name="portOf">The port if --port is left out; null for the usual one.</param>
    public static (Option<bool> Json, Func<ParseResult, ManagementClient> Open) ForClient(
        Command command,
        Func<ParseResult, int?>? portOf = null
    )
    {
        var json = Json();
        command.Add(json);
        return (json, ClientOf(command, portOf));
    }

    /// <summary>The options that say which running service is called, and the client for it.</summary>
    /// <param name="portOf">The port if --port is left out; null for the usual one.</param>
    public static Func<ParseResult, ManagementClient> ClientOf(Command command, Func<ParseResult, int?>? portOf = null)
    {
        var port = Port("Port of the service's pages");
        var state = State();
        command.Add(port);
        command.Add(state);
        return parsed =>
            ManagementClient.Open(
                parsed.GetValue(state),
                parsed.GetResult(port) is null or { Implicit: true } && portOf?.Invoke(parsed) is { } meant
                    ? meant
                    : parsed.GetValue(port)
            );
    }

    /// <summary>An option with a number; null if it is left out.</summary>
    public static Option<T?> Number<T>(string name, string description, T least, T most)
        where T : struct, System.Numerics.INumber<T> =>
        new(name)
        {
            Description = description,
            HelpName = "N",
            CustomParser = result =>
            {
                var text = result.Tokens[0].Value;
                if (T.TryParse(text, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most)
                    return number;
                result.AddError($"{name} must be a whole number from {least} on, not “{text}”.");
                return null;
            },
        };

    /// <summary>An option with a time, such as <c>90s</c>; null if it is left out.</summary>
    public static Option<TimeSpan?> Time(string name, string description) =>
        new(name)
        {
            Description = description,
            HelpName = "TIME",
            CustomParser = TimeOf,
        };

    private static TimeSpan? TimeOf(ArgumentResult result)
    {
        var text = result.Tokens[0].Value;
        var unit = text.Length > 1 ? text[^1] : ' ';
        if (
            double.TryParse(text.AsSpan(0, Math.Max(0, text.Length - 1)), CultureInfo.InvariantCulture, out var count)
            && count is > 0 and < 1e6
        )
        {
            switch (unit)
            {
                case 's':
                    return TimeSpan.FromSeconds(count);
                case 'm':
                    return TimeSpan.FromMinutes(count);
                case 'h':
                    return TimeSpan.FromHours(count);
            }
        }

        result.AddError($"{((OptionResult)result.Parent!).Option.Name} must be a time such as 90s, 30m or 2h, not “{text}”.");
        return null;
    }

    private static void CheckPort(OptionResult result)
    {
        if (result.Tokens is [{ Value: var text }] && (!int.TryParse(text, out var port) || port is < 0 or > 65535))
            result.AddError($"{result.Option.Name} must be a number from 0 (any free port) to 65535, not “{text}”.");
    }
}
