using System.CommandLine;
using System.Globalization;
using Jexa.Cli.Output;
using Jexa.Service.Management;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa changes</c>: changes made through pages, newest first; or one of them in detail; or reverses one.</summary>
internal static class ChangesCommand
{
    public static Command Create()
    {
        var number = new Argument<long?>("NUMBER")
        {
            Description = "One change, with every field",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var record = Text("--record", "Changes of this record kind only", "NAME");
        var id = Text("--id", "Changes of the record with this ID only, as it stands in addresses", "ID");
        var page = Text("--page", "Changes made through this page only", "NAME");
        var kind = Text("--kind", "added, changed or deleted only", "KIND");
        var state = Text("--stage", "made, intended or undetermined only", "STAGE");
        var since = new Option<string?>("--since")
        {
            Description = "Changes since this day or moment (UTC) only",
            HelpName = "WHEN",
        };
        var limit = new Option<int?>("--limit") { Description = "How many at most; 50 where left out", HelpName = "COUNT" };
        var takeBack = new Option<bool>("--undo")
        {
            Description = "Take the change back, if its record is still as that change left it",
        };
        var command = new ExampleCommand(
            "changes",
            "Show what was changed through pages, newest first: when, on which page, which record, each "
                + "field before and after. One change can be taken back.",
            "jexa changes",
            "jexa changes --record bridge --id 7",
            "jexa changes --kind deleted --since 2026-01-31",
            "jexa changes 12",
            "jexa changes 12 --undo"
        )
        {
            number,
            record,
            id,
            page,
            kind,
            state,
            since,
            limit,
            takeBack,
        };
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var one = parsed.GetValue(number);
                if (parsed.GetValue(takeBack) && one is null)
                    throw new CommandException(
                        ExitCodes.WrongUse,
                        "--undo needs the number of a change: jexa changes NUMBER --undo."
                    );
                if (parsed.GetValue(limit) is < 1 or > 1000)
                    throw new CommandException(ExitCodes.WrongUse, "--limit must be a number from 1 to 1000.");
                var query = new List<string>();
                foreach (
                    var (name, option) in new[]
                    {
                        ("record", record),
                        ("id", id),
                        ("page", page),
                        ("kind", kind),
                        ("state", state),
                    }
                )
                    if (parsed.GetValue(option) is { } value)
                        query.Add($"{name}={Uri.EscapeDataString(value)}");
                if (parsed.GetValue(since) is { } moment)
                    query.Add($"since={Uri.EscapeDataString(Moment(moment))}");
                if (parsed.GetValue(limit) is { } most)
                    query.Add($"limit={most}");
                if (one is not null && query.Count > 0)
                    throw new CommandException(
                        ExitCodes.WrongUse,
                        "One change is named by its number alone; the other options are for lists."
                    );
                using var client = open(parsed);
                if (one is null)
                {
                    var list = await client.GetAsync<ChangeList>(
                        "api/changes" + (query.Count == 0 ? "" : "?" + string.Join('&', query)),
                        cancellation
                    );
                    if (parsed.GetValue(json))
                        Terminal.Json(list);
                    else
                        ChangeView.Write(Terminal.Out(), list);
                    return ExitCodes.Fine;
                }

                var change = parsed.GetValue(takeBack)
                    ? await client.PostAsync<ChangeInfo>($"api/changes/{one}/undo", new { }, cancellation)
                    : await client.GetAsync<ChangeInfo>($"api/changes/{one}", cancellation);
                if (parsed.GetValue(json))
                    Terminal.Json(change);
                else
                    ChangeView.Write(Terminal.Out(), change);
                return ExitCodes.Fine;
            }
        );
        return command;
    }

    private static Option<string?> Text(string name, string description, string helpName) =>
        new(name) { Description = description, HelpName = helpName };

    private static string Moment(string text) =>
        DateTimeOffset.TryParseExact(
            text,
            ["yyyy-MM-dd", "yyyy-MM-dd'T'HH:mm", "yyyy-MM-dd'T'HH:mm:ss", "yyyy-MM-dd'T'HH:mm:ssK"],
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal,
            out var moment
        )
            ? moment.ToString("O", CultureInfo.InvariantCulture)
            : throw new CommandException(
                ExitCodes.WrongUse,
                $"“{text}” is no day or moment; write one like 2026-01-31 or 2026-01-31T14:30."
            );
}
