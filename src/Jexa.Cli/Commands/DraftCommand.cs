using System.CommandLine;
using System.Text;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Drafts;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Service;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa draft ENGINE CONNECTION</c>: writes a first app file over a source, or says how one and its source have come apart.</summary>
internal static class DraftCommand
{
    private static readonly string[] Engines = ["sqlite", "postgresql", "mariadb", "files"];

    private sealed record DraftReport(string? File, int Records, int Pages, IReadOnlyList<string> Doubts, IReadOnlyList<FindingInfo> Findings);

    private sealed record CompareReport(string File, IReadOnlyList<DraftDifference> Differences);

    public static Command Create()
    {
        var engine = new Argument<string>("ENGINE") { Description = string.Join(", ", Engines[..^1]) + " or " + Engines[^1] };
        engine.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var word }] && !Engines.Contains(word)) result.AddError($"ENGINE must be {string.Join(", ", Engines[..^1])} or {Engines[^1]}, not “{word}”.");
        });
        var connection = new Argument<string>("CONNECTION") { Description = "The source as an app file writes it; ${NAME} stands for an environment variable, and stays so in the file" };
        var output = new Option<string?>("--out") { Description = "File to write; standard output where left out. One that is there is never written over", HelpName = "FILE" };
        var title = new Option<string?>("--title") { Description = "Name of the app", HelpName = "TEXT" };
        var compare = new Option<string?>("--compare") { Description = "App file to hold against the source instead: what is new, gone or different. It is not touched", HelpName = "FILE" };
        var json = CommonOptions.Json();
        var command = new ExampleCommand("draft",
            "Write a first app file over a source: lists, detail pages, forms, related records, as its schema suggests.",
            "jexa draft sqlite register.db --out register.yaml",
            "jexa draft postgresql '${DATABASE_URL}' --title \"Bridge register\"",
            "jexa draft sqlite register.db --compare register.yaml")
        {
            engine, connection, output, title, compare, json,
        };
        command.SetAction(async (parsed, cancellation) =>
        {
            var (kind, where, file, asJson) = (parsed.GetValue(engine)!, parsed.GetValue(connection)!, parsed.GetValue(output), parsed.GetValue(json));
            if (file is not null && File.Exists(file)) throw new CommandException(ExitCodes.WrongUse, $"{file} is there already, and is not written over. Choose another name.");
            await using var sources = JexaService.OpenSources();
            var folder = Path.GetDirectoryName(Path.GetFullPath(parsed.GetValue(compare) ?? file ?? "app.yaml"))!;
            var schema = await DescribeAsync(sources, kind, where, folder, cancellation);
            return parsed.GetValue(compare) is { } app ? await CompareAsync(app, kind, where, schema, asJson, cancellation)
                : await WriteAsync(sources, kind, where, schema, parsed.GetValue(title) ?? TitleOf(kind, where), file, folder, asJson, cancellation);
        });
        return command;
    }

    private static async Task<SourceSchema> DescribeAsync(SourceRegistry sources, string engine, string connection, string folder, CancellationToken cancellation)
    {
        try
        {
            var filled = Variables.Fill(connection, Environment.GetEnvironmentVariable, value => sources.Quote(engine, value),
                (name, _) => throw new CommandException(ExitCodes.WrongUse, $"The environment variable {name} is not set."))!;
            return await sources.Open(new SourceSettings(engine, filled, connection, folder, TimeSpan.FromSeconds(30))).DescribeAsync(cancellation);
        }
        catch (SourceException away)
        {
            throw new CommandException(ExitCodes.CannotReach, $"The source cannot be described: {away.Message}", away);
        }
    }

    private static async Task<int> WriteAsync(
        SourceRegistry sources, string engine, string connection, SourceSchema schema, string title, string? file, string folder, bool json, CancellationToken cancellation)
    {
        var draft = Drafter.Write(title, engine, connection, schema);
        var bytes = Encoding.UTF8.GetBytes(draft.Text);
        if (file is not null) await File.WriteAllBytesAsync(file, bytes, cancellation);
        else if (!json) Console.Write(draft.Text);
        var compilation = await new SiteCompiler(sources, Environment.GetEnvironmentVariable, Mount.Root).CompileAsync(file ?? Path.Combine(folder, "app.yaml"), bytes, cancellation);
        var findings = SiteReport.Of(compilation.Findings, compilation.Definition);
        if (json)
        {
            Terminal.Json(new DraftReport(file, draft.Records, draft.Pages, draft.Doubts, findings));
            return ExitCodes.Fine;
        }

        var console = Terminal.Error();
        foreach (var doubt in draft.Doubts) console.MarkupLine($"[yellow]unsure[/]  {Markup.Escape(doubt)}");
        FindingView.Write(console, findings);
        console.WriteLine($"{draft.Records} records, {draft.Pages} pages: {FindingView.Count(findings)}.{(file is null ? "" : $" See them with: jexa serve {file}")}");
        return compilation.Site is null ? ExitCodes.Findings : ExitCodes.Fine;
    }

    private static async Task<int> CompareAsync(string file, string engine, string connection, SourceSchema schema, bool json, CancellationToken cancellation)
    {
        byte[] bytes;
        try
        {
            bytes = await File.ReadAllBytesAsync(file, cancellation);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be read: {refused.Message}", refused);
        }

        var findings = new FindingList();
        var app = AppFileReader.Read(file, bytes, findings);
        var source = app?.Sources.FirstOrDefault(source => source.Engine.Value == engine && source.Connection.Value == connection) ?? app?.Sources.FirstOrDefault(source => source.Engine.Value == engine) ?? (app is { Sources.Count: > 0 } ? app.Sources[0] : null);
        if (app is null || source is null) throw new CommandException(ExitCodes.Findings, $"{file} is no app file with a source; jexa check {file} says more.");
        var differences = DraftComparison.Of(app, source.Name.Value, schema);
        if (json)
        {
            Terminal.Json(new CompareReport(file, differences));
        }
        else
        {
            var console = Terminal.Out();
            foreach (var difference in differences) console.WriteLine($"{difference.Kind,-10} {difference.Sentence}");
            console.WriteLine(differences.Count == 0 ? $"{file} and its source agree." : $"{differences.Count} {(differences.Count == 1 ? "difference" : "differences")}. {file} was not touched.");
        }

        return differences.Count == 0 ? ExitCodes.Fine : ExitCodes.Findings;
    }

    private static string TitleOf(string engine, string connection) =>
        engine is "sqlite" or "files" ? Labels.OfPage(Path.GetFileNameWithoutExtension(connection.TrimEnd('/'))) : "Records";
}
