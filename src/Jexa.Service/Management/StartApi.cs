using Jexa.Core.Schemas;
using Jexa.Service.Hosting;
using Jexa.Service.State;
using Jexa.Service.Workshop;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>The way to a first app file: look at a source, choose tables, draft their pages into the working copy.</summary>
internal sealed class StartApi(Workbench bench, SecretsFile secrets)
{
    private const int SampleRows = 6;
    private const int MostNames = 50;
    private static readonly string[] DatabaseEndings = [".db", ".sqlite", ".sqlite3", ".db3", ".s3db"];
    private static readonly TimeSpan TimeLimit = TimeSpan.FromSeconds(10);

    public void Map(RouteGroupBuilder api)
    {
        var start = api.MapGroup("/start");
        start.MapGet("", Here).WithSummary("The folder of the app file, and what in it looks like a source by its name");
        Ask(start.MapPost("/look", LookAsync), "What a source has: its tables, their columns and sizes");
        Ask(start.MapPost("/rows", RowsAsync), "The first rows of a source's table: the only one that is named");
        Ask(start.MapPost("/draft", DraftAsync), "Draft pages over a source into the working copy; a password is kept apart");
    }

    private static void Ask(RouteHandlerBuilder route, string summary) =>
        route.WithSummary(summary).ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    /// <summary>Only names are looked at: nothing but its library opens a database.</summary>
    private Ok<StartPlaceInfo> Here()
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(bench.Disk.File))!;
        IEnumerable<string> names = Directory.Exists(folder)
            ? Directory.EnumerateFiles(folder).Select(path => Path.GetFileName(path)).Order()
            : [];
        return TypedResults.Ok(
            new StartPlaceInfo(
                folder,
                [.. names.Where(name => DatabaseEndings.Contains(Path.GetExtension(name).ToLowerInvariant())).Take(MostNames)]
            )
        );
    }

    private Task<Results<Ok<StartInfo>, ProblemHttpResult>> LookAsync([FromBody] StartRequest request, CancellationToken stop) =>
        WithAsync(request, async (source, connection) =>
        {
            var schema = await source.DescribeAsync(stop);
            return new StartInfo(
                connection.Text,
                connection.Variable,
                connection.Variable is null ? null : secrets.Path,
                [.. schema.Tables.Where(table => table.Columns.Count > 0).Select(Of)]
            );
        });

    private Task<Results<Ok<RowsInfo>, ProblemHttpResult>> RowsAsync([FromBody] StartRequest request, CancellationToken stop) =>
        WithAsync(request, async (source, _) =>
        {
            var schema = await source.DescribeAsync(stop);
            var name = request.Tables is [var only] ? only : "";
            var table = schema.Find(name) ?? throw new DraftException(DraftTrouble.Asked, $"The source has no table “{name}”.");
            var sample = await source.RowsAsync(table, SampleRows, stop);
            return new RowsInfo(sample.Columns, sample.Rows, null);
        });

    private Task<Results<Ok<StartedInfo>, ProblemHttpResult>> DraftAsync(
        [FromBody] StartRequest request,
        CancellationToken stop
    ) => WithAsync(request, async (source, connection) =>
        {
            var schema = await source.DescribeAsync(stop);
            if (request.Tables is { } chosen)
                schema = schema with { Tables = [.. schema.Tables.Where(table => chosen.Contains(table.Name))] };
            if (schema.Tables.Count == 0)
                throw new DraftException(DraftTrouble.Nothing, "Choose at least one table.");
            var draft = await source.WriteAsync(schema, request.Title, stop);
            if (connection.Variable is { } variable)
                secrets.Keep(variable, request.Password!);
            var state = await bench.ReplaceAsync(draft.Text, $"draft pages over {connection.Text}", stop);
            return new StartedInfo(WorkingCopyReport.Of(state, bench), draft.Doubts);
        });

    private async Task<Results<Ok<T>, ProblemHttpResult>> WithAsync<T>(
        StartRequest request,
        Func<DraftSource, StartConnection, Task<T>> ask
    )
    {
        try
        {
            var folder = Path.GetDirectoryName(Path.GetFullPath(bench.Disk.File))!;
            var connection = StartConnection.Of(request, folder);
            await using var sources = SourceEngines.Open();
            var source = new DraftSource(sources, request.Engine, connection.Text, folder, name =>
                name == connection.Variable ? request.Password : secrets.Value(name)
            )
            {
                Lists = request.Lists ?? [],
                Description = request.Description,
                TimeLimit = TimeLimit,
            };
            return TypedResults.Ok(await ask(source, connection));
        }
        catch (Exception refused) when (refused is DraftException or IOException)
        {
            return TypedResults.Problem(refused.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
        }
    }

    private static StartTableInfo Of(TableSchema table) =>
        new(
            table.Name,
            table.Kind.ToString().ToLowerInvariant(),
            table.AboutRows,
            [.. table.Columns.Select(column => TableColumnInfo.Of(column, table))]
        );
}
