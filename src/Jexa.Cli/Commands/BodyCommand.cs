using System.CommandLine;
using System.Text;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Files;
using Jexa.Service.Hosting;
using Jexa.Service.Html;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa body APP_FILE PAGE</c>: a page as Jexa draws it, as an HTML file to change.</summary>
internal static class BodyCommand
{
    private sealed record BodyReport(string Page, string? File, string Line, string? Html);

    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var page = new Argument<string>("PAGE") { Description = "The page, by its name in the app file" };
        var into = new Option<string?>("--out")
        {
            Description =
                "File to write, below the app file's folder; standard output if omitted. An existing one is never written over",
            HelpName = "FILE",
        };
        var json = CommonOptions.Json();
        var command = new ExampleCommand(
            "body",
            "Write a page as Jexa draws it into an HTML file: the start of a design of your own.",
            "jexa body register.yaml bridge --out bridge.html",
            "jexa body register.yaml bridges > bridges.html"
        )
        {
            file,
            page,
            into,
            json,
        };
        command.SetAction(
            (parsed, cancellation) =>
                RunAsync(
                    parsed.GetValue(file)!,
                    parsed.GetValue(page)!,
                    parsed.GetValue(into),
                    parsed.GetValue(json),
                    cancellation
                )
        );
        return command;
    }

    private static async Task<int> RunAsync(string file, string name, string? into, bool json, CancellationToken cancellation)
    {
        var (html, at) = await DraftAsync(file, name, cancellation);
        var line = $"body: {into ?? $"{name}.html"}";
        if (into is not null)
            Write(Path.GetFullPath(into, at), into, html);
        if (json)
            Terminal.Json(new BodyReport(name, into, line, into is null ? html : null));
        else if (into is null)
            Console.Out.Write(html);
        else
            Terminal.Out().WriteLine($"{into} is written. In the app file, under “{name}”:\n\n    {line}");
        return ExitCodes.Fine;
    }

    private static async Task<(string Html, string Folder)> DraftAsync(string file, string name, CancellationToken cancellation)
    {
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(file, sources, Mount.Root, cancellation);
            if (compilation.SourceIsAway)
                throw new CommandException(ExitCodes.CannotReach, "A source cannot be reached, so its pages are not known.");
            if (compilation.Partial is not { } site)
                throw new CommandException(ExitCodes.Findings, $"{file} makes no site: `jexa check {file}` says why.");
            if (site.Find(name) is not { } page)
            {
                var nearest = Nearest.To(name, site.Pages.Select(one => one.Name));
                throw new CommandException(
                    ExitCodes.WrongUse,
                    $"There is no page “{name}”." + (nearest is null ? "" : $" Did you mean {nearest}?")
                );
            }

            return HtmlBodyDraft.Of(page, site.Frame) is { } html
                ? (html, compilation.Definition!.Folder)
                : throw new CommandException(ExitCodes.WrongUse, $"“{name}” is a text page: its design is its text.");
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static void Write(string path, string named, string html)
    {
        try
        {
            if (Path.Exists(path))
                throw new CommandException(ExitCodes.WrongUse, $"{named} is there already, and is not written over.");
            PlainFile.WriteAllBytes(path, Encoding.UTF8.GetBytes(html));
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{named} cannot be written: {trouble.Message}", trouble);
        }
    }
}
