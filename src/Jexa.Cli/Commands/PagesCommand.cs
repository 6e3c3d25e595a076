using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa pages</c>: the pages of the running service.</summary>
internal static class PagesCommand
{
    /// <summary>The width of the other columns.</summary>
    private const int RoomBesidePaths = 80;

    public static Command Create()
    {
        var command = new ExampleCommand(
            "pages",
            "Show the pages of the running service: their paths, what their parameters stand for, and where their links lead.",
            "jexa pages",
            "jexa pages --json --port 8080"
        );
        var (json, open) = CommonOptions.ForClient(command);
        command.SetAction(
            async (parsed, cancellation) =>
            {
                using var client = open(parsed);
                var pages = await client.GetAsync<IReadOnlyList<PageInfo>>("api/pages", cancellation);
                if (parsed.GetValue(json))
                    Terminal.Json(pages);
                else
                    Write(pages);
                var site = await client.GetAsync<SiteInfo>("api/site", cancellation);
                if (site.Behind)
                {
                    await Console.Error.WriteLineAsync(
                        $"{site.File} has been changed into something that makes no site; these are the pages of the "
                            + "last good one:"
                    );
                    FindingView.Write(
                        Terminal.Error(),
                        await client.GetAsync<IReadOnlyList<FindingInfo>>("api/findings", cancellation)
                    );
                }
                return ExitCodes.Fine;
            }
        );
        return command;
    }

    private static void Write(IReadOnlyList<PageInfo> pages)
    {
        var table = Terminal.Table("page", "path", "kind", "record", "parameters", "links to");
        foreach (var page in pages)
            table.AddRow(
                new[]
                {
                    page.Name,
                    page.Path,
                    page.Kind,
                    page.Record.Length == 0 ? "-" : page.Record,
                    page.Parameters.Count == 0
                        ? "-"
                        : string.Join(
                            ", ",
                            page.Parameters.Select(p => $"{p.Name} = {p.Field} ({p.Type}{(p.Required ? "" : ", optional")})")
                        ),
                    Leading(page),
                }
                    .Select(Markup.Escape)
                    .ToArray()
            );

        // A path that is broken into two lines can be neither read nor copied.
        var console = Terminal.Out();
        if (console.Profile.Width - pages.Select(page => page.Path.Length).DefaultIfEmpty().Max() >= RoomBesidePaths)
            table.Columns[1].NoWrap();
        console.Write(table);
    }

    /// <summary>Where the page's links lead, without the way back to the list, which every record's page has.</summary>
    private static string Leading(PageInfo page)
    {
        var names = page.Links.Where(link => link.Reason != "back").Select(link => link.Page).Distinct().ToList();
        return names.Count == 0 ? "-" : string.Join(", ", names);
    }
}
