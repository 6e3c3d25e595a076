using System.CommandLine;
using System.Diagnostics;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Service;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa sources APP_FILE</c>: what each source of an app file is, whether it is there, how fast, and what it can do.</summary>
internal static class SourcesCommand
{
    private sealed record SourceReport(string Name, string Engine, string Connection, bool Reachable, double? Milliseconds, int? Tables, bool? Writes, string? Trouble, IReadOnlyList<string> Notes);

    public static Command Create()
    {
        var file = new Argument<string>("APP_FILE") { Description = "The app file" };
        var json = CommonOptions.Json();
        var command = new ExampleCommand("sources",
            "Say of each source of an app file whether it is there, how fast it answers, what it holds and whether it can be changed.",
            "jexa sources register.yaml",
            "jexa sources register.yaml --json")
        {
            file,
            json,
        };
        command.SetAction((parsed, cancellation) => RunAsync(parsed.GetValue(file)!, parsed.GetValue(json), cancellation));
        return command;
    }

    private static async Task<int> RunAsync(string file, bool json, CancellationToken cancellation)
    {
        await using var registry = JexaService.OpenSources();
        try
        {
            var compilation = await JexaService.CompileAsync(file, registry, Mount.Root, cancellation);
            if (compilation.Definition is not { } app) throw new CommandException(ExitCodes.Findings, $"{file} cannot be read; jexa check {file} says more.");
            var reports = new List<SourceReport>();
            foreach (var source in app.Sources)
            {
                var (name, engine, connection) = (source.Name.Value, source.Engine.Value, source.Connection.Value);
                if (!compilation.Opened.TryGetValue(name, out var opened))
                    reports.Add(new SourceReport(name, engine, connection, false, null, null, null, compilation.Findings.FirstOrDefault(finding => finding.At.Line >= source.Name.At.Line)?.Message, []));
                else reports.Add(await LookAsync(name, engine, connection, opened, cancellation));
            }

            if (json) Terminal.Json(reports);
            else Write(reports);
            return reports.TrueForAll(report => report.Reachable) ? ExitCodes.Fine : ExitCodes.CannotReach;
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static async Task<SourceReport> LookAsync(string name, string engine, string connection, ISource source, CancellationToken cancellation)
    {
        SourceSchema? schema = null;
        try
        {
            schema = await source.DescribeAsync(cancellation);
            await source.ProbeAsync(cancellation);
            var clock = Stopwatch.StartNew();
            await source.ProbeAsync(cancellation);
            return new SourceReport(name, engine, connection, true, Math.Round(clock.Elapsed.TotalMilliseconds, 2), schema.Tables.Count, schema.ReadOnlyBecause is null, null, Notes(schema));
        }
        catch (SourceException away)
        {
            return new SourceReport(name, engine, connection, false, null, schema?.Tables.Count, null, away.Message, schema is null ? [] : Notes(schema));
        }
    }

    private static List<string> Notes(SourceSchema schema) => [.. schema.Notes.Select(note => note.Sentence)];

    private static void Write(List<SourceReport> reports)
    {
        var table = Terminal.Table("source", "engine", "answers", "tables", "changes");
        foreach (var report in reports)
            table.AddRow(Markup.Escape(report.Name), Markup.Escape(report.Engine), report.Reachable ? $"[green]in {report.Milliseconds:0.##} ms[/]" : "[red]not[/]", report.Tables?.ToString() ?? "-",
                report.Writes switch { true => "yes", false => "no", _ => "-" });
        var console = Terminal.Out();
        console.Write(table);
        foreach (var report in reports)
        {
            if (report.Trouble is { } trouble) console.WriteLine($"{report.Name}: {trouble}");
            foreach (var note in report.Notes) console.WriteLine($"{report.Name}: {note}");
        }
    }
}
