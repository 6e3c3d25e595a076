using Jexa.Core.Drafts;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Service.Hosting;
using Jexa.Service.Workshop;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>
/// Queries of a developer's own, tried before they are used: on connections that only read, a few rows at a time.
/// </summary>
internal sealed class QueryApi(SiteHost host, Workbench bench)
{
    private const int MostRows = 100;
    private const int MostText = 64 * 1024;

    public void Map(RouteGroupBuilder api) =>
        api.MapPost("/query-trials", TryAsync)
            .WithSummary("Try a query of one's own: its first rows and its plan. It only reads")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private async Task<Results<Ok<QueryTrialInfo>, ProblemHttpResult>> TryAsync(
        [FromBody] QueryTrialRequest request,
        CancellationToken stop
    )
    {
        await bench.LookAsync(stop);
        var source = bench.Preview.Site?.Sources.FirstOrDefault(one => one.Name == request.Source)?.Source
            ?? host.Site.Sources.FirstOrDefault(one => one.Name == request.Source)?.Source;
        if (source is null)
            return TypedResults.Problem(
                $"There is no source “{request.Source}”, or it cannot be opened.",
                statusCode: StatusCodes.Status404NotFound
            );
        if (request.Query.Length > MostText)
            return Unprocessable("The query is longer than 64 KiB.");
        try
        {
            var began = host.Clock.GetTimestamp();
            // One row more than is shown tells whether there are further ones.
            var trial = await QueryTrial.RunAsync(
                source,
                request.Query,
                request.Values ?? new Dictionary<string, string>(),
                MostRows + 1,
                stop
            );
            var took = host.Clock.GetElapsedTime(began).TotalMilliseconds;
            return TypedResults.Ok(
                new QueryTrialInfo(
                    trial.Schema.Fault,
                    trial.Schema.Parameters,
                    [.. trial.Schema.Columns.Select(column => column.Name)],
                    [.. trial.Schema.Columns.Select(column => column.Type.Word())],
                    [.. trial.Sample?.Rows.Take(MostRows) ?? []],
                    trial.Sample?.Rows.Count > MostRows,
                    took,
                    trial.Sample is { } sample ? await QueryPlanInfo.OfAsync(sample.Query, trial.Arguments, stop) : null
                )
            );
        }
        catch (SourceException trouble)
        {
            return Unprocessable(trouble.Message);
        }
    }

    private static ProblemHttpResult Unprocessable(string detail) =>
        TypedResults.Problem(detail, statusCode: StatusCodes.Status422UnprocessableEntity);
}
