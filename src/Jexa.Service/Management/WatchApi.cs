using System.Runtime.CompilerServices;
using Jexa.Service.Hosting;
using Jexa.Service.Traces;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>Visits as they happen, as server-sent events. However many there are, an event has a bounded size.</summary>
internal sealed class WatchApi(SiteHost host)
{
    private const int MostVisits = 100;
    private const int MostPages = 50;
    private const int MostFailed = 50;
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    public void Map(RouteGroupBuilder api)
    {
        api.MapGet("/watch", Watch)
            .WithSummary("Visits, outcomes, times and failed IDs as they happen: one event a second")
            .Produces<WatchInfo>(StatusCodes.Status200OK, "text/event-stream");
        api.MapGet("/slow-queries/{number:long}/plan", PlanAsync)
            .WithSummary("How the source would run a slow query now, with the values it had")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private async Task<Results<Ok<QueryPlanInfo>, ProblemHttpResult>> PlanAsync(long number, CancellationToken stop) =>
        host.Figures.SlowQueries.FirstOrDefault(slow => slow.Number == number) is { } found
            ? TypedResults.Ok(await QueryPlanInfo.OfAsync(found.Query, found.Arguments, stop))
            : TypedResults.Problem(
                "This slow query is not kept any more: slower ones, or the same one again, took its place.",
                statusCode: StatusCodes.Status404NotFound
            );

    private ServerSentEventsResult<WatchInfo> Watch(CancellationToken stop) =>
        TypedResults.ServerSentEvents(EventsAsync(stop), eventType: "visits");

    private async IAsyncEnumerable<WatchInfo> EventsAsync([EnumeratorCancellation] CancellationToken stop)
    {
        var (last, second) = (0L, 0L);
        while (!stop.IsCancellationRequested)
        {
            // A second may still get visits while it is told: it is told again.
            var (visits, skipped) = Visits(ref last);
            var now = host.Clock.GetUtcNow().ToUnixTimeSeconds();
            yield return new WatchInfo(
                [
                    .. host
                        .Figures.OutcomesSince(second)
                        .Select(one => new SecondInfo(
                            one.Second,
                            [.. one.Counts.Select(count => new OutcomeCount(count.Outcome, count.Visits))]
                        )),
                ],
                visits,
                skipped,
                Pages(),
                Slow(),
                [
                    .. host
                        .Figures.Failed(MostFailed)
                        .Select(failed => new FailedVisitsInfo(
                            failed.Page,
                            failed.Outcome,
                            TraceReport.Escaped(failed.From),
                            [.. failed.Targets.Select(TraceReport.Escaped)],
                            failed.Visits,
                            failed.Last
                        )),
                ]
            );
            second = now - 1;
            try
            {
                await Task.Delay(Pause, host.Clock, stop);
            }
            catch (OperationCanceledException)
            {
                yield break;
            }
        }
    }

    private IReadOnlyList<SlowQueryInfo> Slow() =>
        [
            .. host.Figures.SlowQueries.Select(slow => new SlowQueryInfo(
                slow.Number,
                slow.Page,
                slow.Visit,
                slow.Text,
                slow.Rows,
                slow.Microseconds
            )),
        ];

    private IReadOnlyList<PageTimesInfo> Pages() =>
        [
            .. host
                .Figures.PagesOf(host.Site, MostPages)
                .Select(pair => new PageTimesInfo(pair.Page.Name, pair.Times.Visits, pair.Times.At(0.5), pair.Times.At(0.95))),
        ];

    private (IReadOnlyList<VisitInfo> Visits, long Skipped) Visits(ref long last)
    {
        var before = last;
        var latest = host.Visits.Read(TraceReport.Line, most: MostVisits);
        var visits = latest.Where(visit => visit.Number > before).ToList();
        if (visits.Count > 0)
            last = visits[0].Number;
        return (visits, before == 0 ? 0 : Math.Max(0, last - before - visits.Count));
    }
}
