using Jexa.Service.Traces;

namespace Jexa.Service.Management;

/// <summary>What has happened since the last event of a watch.</summary>
/// <param name="Seconds">Outcomes by the second: all that are kept in the first event, then those that may have changed.</param>
/// <param name="Visits">The latest visits since, newest first: 100 at most.</param>
/// <param name="Skipped">How many more there were.</param>
/// <param name="Pages">How long pages take, the slowest first.</param>
/// <param name="Slow">The slowest queries since the service began.</param>
/// <param name="Failed">Visits that failed by their address, the most frequent first.</param>
public sealed record WatchInfo(
    IReadOnlyList<SecondInfo> Seconds,
    IReadOnlyList<VisitInfo> Visits,
    long Skipped,
    IReadOnlyList<PageTimesInfo> Pages,
    IReadOnlyList<SlowQueryInfo> Slow,
    IReadOnlyList<FailedVisitsInfo> Failed
);
