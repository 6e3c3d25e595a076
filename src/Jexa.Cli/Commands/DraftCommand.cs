using System.CommandLine;
using System.Text;
using System.Text.RegularExpressions;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Drafts;
using Jexa.Core.Files;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Workshop;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary>
/// <c>jexa draft ENGINE CONNECTION</c>: writes a first app file for a source, or says how one and its source differ.
/// </summary>
internal static class DraftCommand
{
    private sealed record DraftReport(
        string? File,
        int Records,
        int Pages,
        IReadOnlyList<string> Doubts,
        IReadOnlyList<FindingInfo> Findings
    );

    private sealed record CompareReport(string File, IReadOnlyList<DraftDifference> Differences);

    private static readonly string EngineWords =
        string.Join(", ", DraftSource.Engines.SkipLast(1)) + " or " + DraftSource.Engines[^1];
    private static readonly Argument<string> Engine = new("ENGINE") { Description = EngineWords };

    private static readonly Argument<string> Connection = new("CONNECTION")
    {
        Description = "The source as an app file writes it; ${NAME} stands for an environment variable, and stays so in the file",
    };

    private static readonly Option<string?> Output = new("--out")
    {
        Description = "File to write; standard output if omitted. An existing one is never written over",
        HelpName = "FILE",
    };

    private static readonly Option<string?> Title = new("--title") { Description = "Name of the app", HelpName = "TEXT" };

    private static readonly Option<string?> OpenApi = new("--openapi")
    {
        Description =
            "http: file or URL of the API's OpenAPI description (JSON or YAML); if omitted, it is looked for below the base "
            + "address",
        HelpName = "FILE|URL",
    };

    private static readonly Option<string[]> Lists = new("--list")
    {
        Description = "http: path that answers with a list of records, for an API without a description; may be repeated",
        HelpName = "PATH",
    };

    private static readonly Option<string?> Compare = new("--compare")
    {
        Description = "App file to compare with the source instead: what is new, gone or different. It is not changed",
        HelpName = "FILE",
    };

    private static readonly Option<string[]> Only = Patterns("--only", "Tables to draft");
    private static readonly Option<string[]> Except = Patterns("--except", "Tables to leave out");
    private static readonly Option<bool> AsJson = CommonOptions.Json();

    private static Option<string[]> Patterns(string name, string what) =>
        new(name) { Description = $"{what}, by name; * stands for anything. May be repeated", HelpName = "PATTERN" };

    public static Command Create()
    {
        var command = new ExampleCommand(
            "draft",
            "Write a first app file over a source: lists, detail pages, forms, related records, as its schema suggests.",
            "jexa draft sqlite register.db --out register.yaml",
            "jexa draft postgresql '${DATABASE_URL}' --title \"Bridge register\"",
            "jexa draft postgresql '${DATABASE_URL}' --only 'bridge*' --except '*_old'",
            "jexa draft http https://gauges.example/v1 --openapi gauges.json",
            "jexa draft http https://gauges.example/v1 --list /gauges",
            "jexa draft sqlite register.db --compare register.yaml"
        )
        {
            Engine,
            Connection,
            Output,
            Title,
            Only,
            Except,
            OpenApi,
            Lists,
            Compare,
            AsJson,
        };
        Engine.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var word }] && !DraftSource.Engines.Contains(word))
                result.AddError($"ENGINE must be {EngineWords}, not “{word}”.");
        });
        command.SetAction(RunAsync);
        return command;
    }

    private static async Task<int> RunAsync(ParseResult parsed, CancellationToken cancellation)
    {
        var (engine, file) = (parsed.GetValue(Engine)!, parsed.GetValue(Output));
        if (file is not null && File.Exists(file))
            throw new CommandException(
                ExitCodes.WrongUse,
                $"{file} is there already, and is not written over. Choose another name."
            );
        var (described, lists) = (parsed.GetValue(OpenApi), parsed.GetValue(Lists) ?? []);
        if (engine != "http" && (described is not null || lists.Length > 0))
            throw new CommandException(ExitCodes.WrongUse, "--openapi and --list are for an API: jexa draft http BASE.");
        await using var sources = SourceEngines.Open();
        var folder = Path.GetDirectoryName(Path.GetFullPath(parsed.GetValue(Compare) ?? file ?? "app.yaml"))!;
        var connection = Placed(engine, parsed.GetValue(Connection)!, folder);
        var source = new DraftSource(sources, engine, connection, folder, Environment.GetEnvironmentVariable)
        {
            Lists = lists,
            Description = described,
        };
        try
        {
            var schema = Chosen(
                await source.DescribeAsync(cancellation),
                parsed.GetValue(Only) ?? [],
                parsed.GetValue(Except) ?? []
            );
            if (parsed.GetValue(Compare) is { } app)
                return Compared(app, source.Settings, schema, parsed.GetValue(AsJson));
            var draft = await source.WriteAsync(schema, parsed.GetValue(Title), cancellation);
            return await WriteAsync(sources, draft, file, folder, parsed.GetValue(AsJson), cancellation);
        }
        catch (DraftException refused)
        {
            throw new CommandException(CodeOf(refused.Reason), refused.Message, refused);
        }
    }

    private static int CodeOf(DraftTrouble reason) =>
        reason switch
        {
            DraftTrouble.Asked => ExitCodes.WrongUse,
            DraftTrouble.Away => ExitCodes.CannotReach,
            DraftTrouble.Nothing => ExitCodes.Findings,
            _ => throw new ArgumentOutOfRangeException(nameof(reason)),
        };

    /// <summary>
    /// A file or folder as it must be in the app file. The user writes it relative to the present folder, but the app file may be
    /// in another one.
    /// </summary>
    private static string Placed(string engine, string connection, string folder)
    {
        if (
            engine is not ("sqlite" or "files")
            || connection.Contains("${", StringComparison.Ordinal)
            || Path.IsPathRooted(connection)
        )
            return connection;
        var (here, there) = (Path.GetFullPath(connection), Path.GetFullPath(connection, folder));
        if (here == there || Path.Exists(there))
            return connection;
        return Path.Exists(here)
            ? Path.GetRelativePath(folder, here)
            : throw new CommandException(
                ExitCodes.CannotReach,
                $"There is no {connection}: neither {here} nor, beside the app file, {there}."
            );
    }

    /// <summary>The tables that match patterns.</summary>
    private static SourceSchema Chosen(SourceSchema schema, string[] only, string[] except)
    {
        bool Matches(string[] patterns, string name) =>
            patterns.Any(pattern =>
                Regex.IsMatch(
                    name,
                    $"^{Regex.Escape(pattern).Replace("\\*", ".*")}$",
                    RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
                )
            );
        if (
            only.Concat(except).FirstOrDefault(pattern => !schema.Tables.Any(table => Matches([pattern], table.Name))) is { } idle
        )
            throw new CommandException(
                ExitCodes.WrongUse,
                $"No table is called “{idle}”. There {(schema.Tables.Count == 1 ? "is" : "are")}: "
                    + $"{string.Join(", ", schema.Tables.Select(table => table.Name).Take(40))}"
                    + $"{(schema.Tables.Count > 40 ? ", …" : "")}."
            );
        return schema with
        {
            Tables =
            [
                .. schema.Tables.Where(table => (only.Length == 0 || Matches(only, table.Name)) && !Matches(except, table.Name)),
            ],
        };
    }

    /// <summary>Writes the draft, checks it, and says what it has.</summary>
    private static async Task<int> WriteAsync(
        SourceRegistry sources,
        AppDraft draft,
        string? file,
        string folder,
        bool json,
        CancellationToken cancellation
    )
    {
        var bytes = Encoding.UTF8.GetBytes(draft.Text);
        if (file is not null)
            PlainFile.WriteAllBytes(file, bytes);
        else if (!json)
            Console.Write(draft.Text);
        var compilation = await new SiteCompiler(sources, Environment.GetEnvironmentVariable, Mount.Root).CompileAsync(
            file ?? Path.Combine(folder, "app.yaml"),
            bytes,
            cancellation
        );
        var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
        if (json)
        {
            Terminal.Json(new DraftReport(file, draft.Records, draft.Pages, draft.Doubts, findings));
            return ExitCodes.Fine;
        }

        var console = Terminal.Error();
        foreach (var doubt in draft.Doubts)
            console.MarkupLine($"[yellow]unsure[/]  {Terminal.Escaped(doubt)}");
        FindingView.Write(console, findings);
        console.WriteLine(
            $"{draft.Records} {(draft.Records == 1 ? "record" : "records")}, {draft.Pages} pages: "
                + $"{FindingView.Count(findings)}.{(file is null ? "" : $" See them with: jexa serve {file}")}"
        );
        return compilation.Site is null ? ExitCodes.Findings : ExitCodes.Fine;
    }

    /// <summary>Says how an app file and its source differ.</summary>
    private static int Compared(string file, SourceSettings settings, SourceSchema schema, bool json)
    {
        var (app, source) = Named(file, settings);
        var differences = DraftComparison.Of(app, source.Name.Value, schema);
        if (json)
        {
            Terminal.Json(new CompareReport(file, differences));
        }
        else
        {
            var console = Terminal.Out();
            foreach (var difference in differences)
                console.WriteLine($"{difference.Kind, -10} {Terminal.Shown(difference.Sentence)}");
            console.WriteLine(
                differences.Count == 0
                    ? $"{file} and its source agree."
                    : $"{differences.Count} {(differences.Count == 1 ? "difference" : "differences")}. {file} was not changed."
            );
        }

        return differences.Count == 0 ? ExitCodes.Fine : ExitCodes.Findings;
    }

    /// <summary>The app file, and its source that is probably meant.</summary>
    private static (AppDefinition App, SourceDefinition Source) Named(string file, SourceSettings settings)
    {
        byte[] bytes;
        try
        {
            bytes = PlainFile.ReadAllBytes(file);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be read: {refused.Message}", refused);
        }

        var app = AppFileReader.Read(file, bytes, new FindingList());
        var source = app?.Sources.FirstOrDefault(source =>
            source.Engine.Value == settings.Engine && source.Connection.Value == settings.ShownAs
        )
            ?? app?.Sources.FirstOrDefault(source => source.Engine.Value == settings.Engine)
            ?? (app is { Sources.Count: > 0 } ? app.Sources[0] : null);
        return app is null || source is null
            ? throw new CommandException(ExitCodes.Findings, $"{file} is no app file with a source; jexa check {file} says more.")
            : (app, source);
    }
}
