using System.CommandLine;
using System.Globalization;
using Jexa.Cli.Client;
using Jexa.Cli.Output;
using Jexa.Service.Management;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa changes</c>: changes made through pages, newest first; or one of them in detail; or reverses one.</summary>
internal static class ChangesCommand
{
    private static readonly Argument<long?> Number = new("NUMBER")
    {
        Description = "One change, with every field",
        Arity = ArgumentArity.ZeroOrOne,
    };

    private static readonly Option<string?> Record = Text("--record", "Changes of this record kind only", "NAME");
    private static readonly Option<string?> Id = Text("--id", "Changes of the record with this ID only, as in addresses", "ID");
    private static readonly Option<string?> Page = Text("--page", "Changes made through this page only", "NAME");
    private static readonly Option<string?> Kind = Text("--kind", "added, changed or deleted only", "KIND");
    private static readonly Option<string?> Stage = Text("--stage", "made, intended or undetermined only", "STAGE");
    private static readonly Option<string?> Since = Text("--since", "Changes since this day or moment (UTC) only", "WHEN");

    private static readonly Option<int?> Limit = new("--limit")
    {
        Description = "How many at most; 50 if omitted",
        HelpName = "COUNT",
    };

    private static readonly Option<bool> TakeBack = new("--undo")
    {
        Description = "Take the change back, if its record is still as that change left it",
    };

    /// <summary>The options that become parameters of the query, with their names there.</summary>
    private static readonly (string Name, Option<string?> Option)[] Filters =
    [
        ("record", Record),
        ("id", Id),
        ("page", Page),
        ("kind", Kind),
        ("state", Stage),
    ];

    public static Command Create()
    {
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
            Number,
            Record,
            Id,
            Page,
            Kind,
            Stage,
            Since,
            Limit,
            TakeBack,
        };
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                var query = Query(parsed);
                using var client = open(parsed);
                if (parsed.GetValue(Number) is { } one)
                    Tell(parsed.GetValue(json), await OneAsync(client, one, parsed.GetValue(TakeBack), cancellation));
                else
                    Tell(parsed.GetValue(json), await client.GetAsync<ChangeList>("api/changes" + query, cancellation));
                return ExitCodes.Fine;
            }
        );
        return command;
    }

    /// <summary>The query string of a list of changes, checked.</summary>
    private static string Query(ParseResult parsed)
    {
        if (parsed.GetValue(TakeBack) && parsed.GetValue(Number) is null)
            throw new CommandException(ExitCodes.WrongUse, "--undo needs the number of a change: jexa changes NUMBER --undo.");
        if (parsed.GetValue(Limit) is < 1 or > 1000)
            throw new CommandException(ExitCodes.WrongUse, "--limit must be a number from 1 to 1000.");
        var query = Filters
            .Where(filter => parsed.GetValue(filter.Option) is not null)
            .Select(filter => $"{filter.Name}={Uri.EscapeDataString(parsed.GetValue(filter.Option)!)}")
            .ToList();
        if (parsed.GetValue(Since) is { } moment)
            query.Add($"since={Uri.EscapeDataString(Moment(moment))}");
        if (parsed.GetValue(Limit) is { } most)
            query.Add($"limit={most}");
        if (parsed.GetValue(Number) is not null && query.Count > 0)
            throw new CommandException(
                ExitCodes.WrongUse,
                "One change is named by its number alone; the other options are for lists."
            );
        return query.Count == 0 ? "" : "?" + string.Join('&', query);
    }

    private static Task<ChangeInfo> OneAsync(ManagementClient client, long number, bool undo, CancellationToken cancellation) =>
        undo
            ? client.PostAsync<ChangeInfo>($"api/changes/{number}/undo", new { }, cancellation)
            : client.GetAsync<ChangeInfo>($"api/changes/{number}", cancellation);

    private static void Tell(bool json, ChangeInfo change)
    {
        if (json)
            Terminal.Json(change);
        else
            ChangeView.Write(Terminal.Out(), change);
    }

    private static void Tell(bool json, ChangeList list)
    {
        if (json)
            Terminal.Json(list);
        else
            ChangeView.Write(Terminal.Out(), list);
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
