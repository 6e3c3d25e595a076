using Jexa.Core.Addresses;
using Jexa.Core.Drafts;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Service.Hosting;
using Jexa.Service.Workshop;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>What a source holds, table by table, and the rows of record kinds that are being made.</summary>
internal sealed class TableApi(SiteHost host, Workbench bench)
{
    private const int MostRows = 20;

    public void Map(RouteGroupBuilder api)
    {
        // A table may have any name: a slash in it could not stand in the path.
        api.MapGet("/table", TableAsync)
            .WithSummary("A table of a source: columns, keys, indexes, the pages that show it, its first rows")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapGet("/working-copy/rows/{record}", RowsAsync)
            .WithSummary("The first rows of a record kind of the working copy: of its table, or of its own query")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private async Task<Results<Ok<TableInfo>, ProblemHttpResult>> TableAsync(string source, string table, CancellationToken stop)
    {
        var site = host.Site;
        if (
            site.Sources.FirstOrDefault(one => one.Name == source) is not { Source: { } opened } found
            || found.Description?.Schema.Find(table) is not { } schema
        )
            return TypedResults.Problem(
                $"The app has no source “{source}” with a table “{table}”, or it has not answered yet.",
                statusCode: StatusCodes.Status404NotFound
            );
        var records = site
            .Kinds.Where(kind => kind.SourceName == source && kind.Query is null && kind.Table.Name == table)
            .ToList();
        var pages = site.Pages.Where(page => page.Record is { } record && records.Contains(record)).ToList();
        var (rows, trouble) = await RowsOfAsync(opened, schema, pages, stop);
        return TypedResults.Ok(
            new TableInfo(
                source,
                table,
                schema.Kind.ToString().ToLowerInvariant(),
                schema.AboutRows,
                [.. schema.Columns.Select(column => TableColumnInfo.Of(column, schema))],
                schema.UniqueKeys,
                [.. schema.IndexedFirst],
                [
                    .. records.Select(record => new RecordPagesInfo(
                        record.Name,
                        [.. pages.Where(page => page.Record == record).Select(page => page.Name)]
                    )),
                ],
                rows,
                trouble
            )
        );
    }

    private static async Task<(IReadOnlyList<TableRowInfo> Rows, string? Trouble)> RowsOfAsync(
        ISource source,
        TableSchema schema,
        List<Page> pages,
        CancellationToken stop
    )
    {
        if (!schema.CanList)
            return ([], "Its rows can only be read one by one, by their key.");
        try
        {
            var sample = await RowSample.ReadAsync(source, schema, MostRows, stop);
            var rows = new List<TableRowInfo>();
            for (var i = 0; i < sample.Rows.Count; i++)
                rows.Add(new TableRowInfo(sample.Rows[i], Addresses(pages, sample, i)));
            return (rows, null);
        }
        catch (SourceException trouble)
        {
            return ([], trouble.Message);
        }
    }

    /// <summary>The pages that a row can be opened on: those whose parameters its own columns fill.</summary>
    private static List<RowAddressInfo> Addresses(List<Page> pages, RowSample sample, int row)
    {
        var addresses = new List<RowAddressInfo>();
        var columns = sample.Columns.ToList();
        // A record's own pages come before lists that show it among others.
        foreach (
            var page in pages
                .Where(page => page.Parameters.Any(parameter => parameter.Required))
                .OrderByDescending(page => page.Head.Definition.Kind.HasId)
        )
        {
            using var text = new Utf8Buffer(128);
            var ids = new string?[page.Parameters.Count];
            var isWhole = true;
            for (var i = 0; i < ids.Length && isWhole; i++)
            {
                var parameter = page.Parameters[i];
                if (!parameter.Required)
                    continue;
                text.Truncate(0);
                var column = parameter.Path is null ? columns.IndexOf(parameter.Field.Column.Name) : -1;
                isWhole = column >= 0 && parameter.Key.TryWrite(sample.Read[row], column, text);
                ids[i] = text.ToString();
            }

            text.Truncate(0);
            if (isWhole && page.Head.Builder.TryBuild(new GivenTexts(ids), text))
                addresses.Add(new RowAddressInfo(page.Name, text.ToString()));
        }

        return addresses;
    }

    private async Task<Results<Ok<RowsInfo>, ProblemHttpResult>> RowsAsync(string record, CancellationToken stop)
    {
        await bench.LookAsync(stop);
        if (bench.Preview.Site?.Kinds.FirstOrDefault(kind => kind.Name == record) is not { } found)
            return TypedResults.Problem(
                $"The record “{record}” cannot be read as it is.",
                statusCode: StatusCodes.Status404NotFound
            );
        try
        {
            var sample = await RowSample.ReadAsync(
                found.Source,
                found.Rows,
                [.. found.Fields.Select(field => (field.Column.Name, field.Type, field.Secret))],
                [],
                MostRows,
                stop
            );
            return TypedResults.Ok(
                new RowsInfo(
                    sample.Columns,
                    sample.Rows,
                    found.Query is null ? null : await QueryPlanInfo.OfAsync(sample.Query, [], stop)
                )
            );
        }
        catch (SourceException trouble)
        {
            return TypedResults.Problem(trouble.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
        }
    }
}
