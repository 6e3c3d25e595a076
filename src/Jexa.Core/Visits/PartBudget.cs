using System.Runtime.CompilerServices;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Limits the time for parts around a record if the table is large. If a query used its time up, it is not tried again for a
/// minute.
/// </summary>
internal sealed class PartBudget(QueryRunner queries)
{
    /// <summary>How long a page waits for a part.</summary>
    public static readonly TimeSpan Most = TimeSpan.FromMilliseconds(250);

    private static readonly TimeSpan Rest = TimeSpan.FromMinutes(1);

    /// <summary>When a query last used its time up.</summary>
    private readonly ConditionalWeakTable<IPreparedQuery, StrongBox<long>> _spent = [];

    /// <summary>Whether it ran to its end; false if its time was over, now or within the last minute.</summary>
    public async ValueTask<bool> RunAsync(SiteRecord record, WindowQuery query, RowBlock rows, Visit visit)
    {
        if (!record.Table.IsLarge)
        {
            await queries.RunAsync(query, rows, visit.Trace, visit.Cancellation);
            return true;
        }

        if (_spent.TryGetValue(query.Query, out var at) && queries.Clock.GetElapsedTime(at.Value) < Rest)
            return false;
        using var time = new CancellationTokenSource(Most, queries.Clock);
        using var either = CancellationTokenSource.CreateLinkedTokenSource(time.Token, visit.Cancellation);
        try
        {
            await queries.RunAsync(query, rows, visit.Trace, either.Token);
            return true;
        }
        catch (OperationCanceledException) when (time.IsCancellationRequested && !visit.Cancellation.IsCancellationRequested)
        {
            _spent.AddOrUpdate(query.Query, new StrongBox<long>(queries.Clock.GetTimestamp()));
            return false;
        }
    }
}
