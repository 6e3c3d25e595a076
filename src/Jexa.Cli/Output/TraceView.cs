using System.Globalization;
using Jexa.Service.Traces;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows a trace as the steps it went through, in their order.</summary>
internal static class TraceView
{
    private const int NameWidth = 11;

    public static void Write(IAnsiConsole console, TraceInfo trace)
    {
        var title =
            trace.Number == 0
                ? "What a visit would come to"
                : $"Visit {trace.Number}, {trace.At.ToLocalTime():yyyy-MM-dd HH:mm:ss}";
        console.MarkupLine($"[bold]{title}[/]");
        Line(console, "address", $"{trace.Method} {trace.Target}");
        if (trace.Visitor is { } visitor)
            Line(console, "visitor", visitor);
        var color = trace.Good ? "green" : "red";
        Markup(
            console,
            "outcome",
            $"[{color}]{trace.Outcome ?? "none"}[/]{(trace.Why is null ? "" : Terminal.Escaped($": {trace.Why}"))}"
        );
        Line(console, "answer", $"{trace.Status}{(trace.Location is null ? "" : $" to {trace.Location}")}");
        Candidates(console, trace);
        Parameters(console, trace);
        foreach (var query in trace.Queries)
            Query(console, query);
        Line(
            console,
            "time",
            string.Join(", ", trace.Steps.Select(step => $"{step.Step} {Time(step.Microseconds)}"))
                + $"; in all {Time(trace.Microseconds)}"
        );
    }

    private static void Candidates(IAnsiConsole console, TraceInfo trace)
    {
        var name = "match";
        foreach (var candidate in trace.Candidates)
        {
            var mark = candidate.Won ? "[green]yes[/]" : "[dim]no [/]";
            Markup(
                console,
                name,
                $"{mark} {Terminal.Escaped($"{candidate.Page} {candidate.Path}")}  [dim]{Terminal.Escaped(candidate.Reason)}[/]"
            );
            name = "";
        }
    }

    private static void Parameters(IAnsiConsole console, TraceInfo trace)
    {
        var name = "parse";
        foreach (var parameter in trace.Parameters)
        {
            var raw = parameter.Raw is null ? "(none)" : $"“{parameter.Raw}”";
            var typed =
                parameter.Fault is { } fault ? $"malformed: {fault}"
                : parameter.Value is { } value ? $"{parameter.Type} {value}{(parameter.Canonical ? "" : ", spelled otherwise")}"
                : trace.Outcome == "listed" ? "a place in the list"
                : "missing";
            Line(console, name, $"{parameter.Name} = {raw} → {typed}");
            name = "";
        }

        if (trace.Ignored.Count > 0)
            Line(console, "ignored", string.Join(", ", trace.Ignored));
    }

    private static void Query(IAnsiConsole console, QueryTrace query)
    {
        // A query of several lines becomes one line here: a value in it must not look like a line of the trace.
        Line(console, "load", query.Text.ReplaceLineEndings(" "));
        Line(console, "", $"{(query.RowCount == 1 ? "1 row" : $"{query.RowCount} rows")} in {Time(query.Microseconds)}");
        foreach (var row in query.Rows)
            Line(console, "row", string.Join(", ", query.Columns.Zip(row, (column, value) => $"{column}={value ?? "(empty)"}")));
        if (query.RowCount > query.Rows.Count && query.Rows.Count > 0)
            Line(console, "", $"… and {query.RowCount - query.Rows.Count} more");
    }

    private static void Line(IAnsiConsole console, string name, string text) => Markup(console, name, Terminal.Escaped(text));

    private static void Markup(IAnsiConsole console, string name, string markup)
    {
        var grid = new Grid { Expand = false };
        grid.AddColumn(
            new GridColumn
            {
                Width = NameWidth,
                NoWrap = true,
                Padding = new Padding(2, 0, 0, 0),
            }
        );
        grid.AddColumn(new GridColumn { Padding = new Padding(0, 0, 0, 0) });
        grid.AddRow(new Markup($"[dim]{name}[/]"), new Markup(markup));
        console.Write(grid);
    }

    private static string Time(double microseconds) =>
        microseconds >= 10_000
            ? (microseconds / 1000).ToString("N1", CultureInfo.InvariantCulture) + " ms"
            : microseconds.ToString("N1", CultureInfo.InvariantCulture) + " µs";
}
