using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Rewriting;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary>
/// <c>jexa app …</c>: named changes of an app file. Comments, order and all that a change does not name stay as they are.
/// </summary>
internal static class AppCommand
{
    private static readonly Argument<string> AppFile = new("APP_FILE") { Description = "The app file" };

    private static readonly Option<bool> ShowOnly = new("--show")
    {
        Description = "Only show what would change, and what check would say; nothing is saved",
    };

    private static readonly Option<bool> AsJson = CommonOptions.Json();

    public static Command Create() =>
        new ExampleCommand(
            "app",
            "Change an app file by name: add pages, rename a page everywhere, set or reset a value. Comments and everything "
                + "else stay as they are.",
            "jexa app add-pages register.yaml bridge",
            "jexa app rename-page register.yaml bridge span --show",
            "jexa app set register.yaml /pages/bridges/size 20"
        )
        {
            AddPages(),
            RenamePage(),
            MovePage(),
            RenameParameter(),
            RemovePage(),
            Set(),
            Reset(),
        };

    private static Command AddPages()
    {
        var record = new Argument<string>("RECORD") { Description = "The record kind, by its name in the app file" };
        var kinds = new Option<string[]>("--kind")
        {
            Description =
                $"A kind of page: {string.Join(", ", NamedChange.AddPages.Words)}; all of them if omitted. May be repeated",
            HelpName = "KIND",
        };
        return Changing(
            "add-pages",
            "Add pages for a record kind: a list, a detail page, and pages that edit, add and delete records.",
            ["jexa app add-pages register.yaml bridge", "jexa app add-pages register.yaml bridge --kind list --kind detail"],
            [record, kinds],
            parsed => new NamedChange.AddPages(
                parsed.GetValue(record)!,
                parsed.GetValue(kinds) is { Length: > 0 } some ? some : NamedChange.AddPages.Words
            )
        );
    }

    private static Command RenamePage()
    {
        var page = new Argument<string>("PAGE") { Description = "The page, by its name" };
        var name = new Argument<string>("NAME") { Description = "Its new name" };
        return Changing(
            "rename-page",
            "Rename a page, and everything in the app file that names it. Its path stays.",
            ["jexa app rename-page register.yaml bridge span"],
            [page, name],
            parsed => new NamedChange.RenamePage(parsed.GetValue(page)!, parsed.GetValue(name)!)
        );
    }

    private static Command MovePage()
    {
        var page = new Argument<string>("PAGE") { Description = "The page, by its name" };
        var path = new Argument<string>("PATH") { Description = "Its new path" };
        return Changing(
            "move-page",
            "Give a page another path. Addresses of its former path redirect, if it has the same parameters.",
            ["jexa app move-page register.yaml bridge \"/crossings/{id}\""],
            [page, path],
            parsed => new NamedChange.MovePage(parsed.GetValue(page)!, parsed.GetValue(path)!)
        );
    }

    private static Command RenameParameter()
    {
        var page = new Argument<string>("PAGE") { Description = "The page, by its name" };
        var parameter = new Argument<string>("PARAMETER") { Description = "The parameter of its path" };
        var name = new Argument<string>("NAME") { Description = "Its new name" };
        return Changing(
            "rename-parameter",
            "Rename a parameter of a page, and everything in the app file that names it.",
            ["jexa app rename-parameter register.yaml bridge id bridge_id"],
            [page, parameter, name],
            parsed => new NamedChange.RenameParameter(parsed.GetValue(page)!, parsed.GetValue(parameter)!, parsed.GetValue(name)!)
        );
    }

    private static Command RemovePage()
    {
        var page = new Argument<string>("PAGE") { Description = "The page, by its name" };
        return Changing(
            "remove-page",
            "Remove a page. Links to it stay, and are shown as findings.",
            ["jexa app remove-page register.yaml bridge-delete"],
            [page],
            parsed => new NamedChange.RemovePage(parsed.GetValue(page)!)
        );
    }

    private static Command Set()
    {
        var place = Place();
        var values = new Argument<string[]>("VALUE")
        {
            Description = "The value; several make a list",
            Arity = ArgumentArity.OneOrMore,
        };
        return Changing(
            "set",
            "Set the value at a place: replace it, or add it.",
            [
                "jexa app set register.yaml /pages/bridges/size 20",
                "jexa app set register.yaml /pages/bridges/show name code opened_on",
            ],
            [place, values],
            parsed => new NamedChange.SetValue(
                Places.Read(parsed.GetValue(place)!),
                parsed.GetValue(values) is [var one] ? FileValue.Of(one) : FileValue.Of(parsed.GetValue(values)!)
            )
        );
    }

    private static Command Reset()
    {
        var place = Place();
        return Changing(
            "reset",
            "Remove what stands at a place: it is as if it had never been said.",
            ["jexa app reset register.yaml /pages/bridges/size"],
            [place],
            parsed => new NamedChange.Reset(Places.Read(parsed.GetValue(place)!))
        );
    }

    private static Argument<string> Place() =>
        new("PLACE") { Description = "Where, as a JSON Pointer: keys after slashes; items of a list by numbers from 0" };

    /// <summary>A command that makes one named change.</summary>
    /// <param name="parts">Its own arguments and options.</param>
    private static ExampleCommand Changing(
        string name,
        string description,
        string[] examples,
        Symbol[] parts,
        Func<ParseResult, NamedChange> read
    )
    {
        var command = new ExampleCommand(name, description, examples) { AppFile };
        foreach (var part in parts)
        {
            if (part is Argument argument)
                command.Add(argument);
            else
                command.Add((Option)part);
        }

        command.Add(ShowOnly);
        command.Add(AsJson);
        command.SetAction((parsed, cancellation) => RunAsync(parsed, read, cancellation));
        return command;
    }

    private static async Task<int> RunAsync(
        ParseResult parsed,
        Func<ParseResult, NamedChange> read,
        CancellationToken cancellation
    )
    {
        var (file, save) = (parsed.GetValue(AppFile)!, !parsed.GetValue(ShowOnly));
        await using var sources = SourceEngines.Open();
        using var editor = new AppFileEditor(new AppFileDisk(file), AppFileCompiler.Over(sources, Mount.Root));
        try
        {
            var edited = await editor.ChangeAsync(null, [read(parsed)], save, cancellation);
            if (parsed.GetValue(AsJson))
                Terminal.Json(ChangedFileInfo.Of(file, edited));
            else
                Write(file, edited);
            return edited.Compilation.Site is null ? ExitCodes.Findings : ExitCodes.Fine;
        }
        catch (RewriteException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
        catch (Exception refused) when (refused is StartException or StaleFileException)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static void Write(string file, EditedFile edited)
    {
        var console = Terminal.Out();
        foreach (var text in edited.Texts)
        {
            console.WriteLine($"{Terminal.Shown(text.Name)}:");
            Write(console, text.Lines);
        }

        if (edited.Texts.Count > 0)
            console.WriteLine($"{file}:");
        Write(console, edited.Lines);
        var findings = SiteReport.Of(edited.Compilation.Findings, edited.Compilation.Definition);
        FindingView.Write(console, [.. findings.Where(finding => finding.Severity != "hint")]);
        if (edited.Lines.Count > 0)
            console.WriteLine();
        console.WriteLine(
            edited.Lines.Count == 0
                ? $"{file} says so already; nothing was changed."
                : $"{file} {(edited.IsSaved ? "is saved" : "would be changed so; nothing is saved")}: "
                    + $"{FindingView.Count(findings)}."
        );
    }

    private static void Write(IAnsiConsole console, IReadOnlyList<LineDifference> lines)
    {
        foreach (var line in lines)
            console.MarkupLine(
                $"{line.Line, 5} [{(line.IsNew ? "green" : "red")}]{(line.IsNew ? "+" : "-")} {Terminal.Escaped(line.Text)}[/]"
            );
    }
}
