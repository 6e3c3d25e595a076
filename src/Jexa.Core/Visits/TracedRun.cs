using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>A query that is run for a visit, and noted in its trace when it ends.</summary>
internal readonly struct TracedRun(
    IPreparedQuery query,
    IReadOnlyList<TypedValue> arguments,
    RowBlock rows,
    VisitTrace trace,
    long started
)
{
    private readonly int _before = rows.Count;

    public ValueTask RunAsync(CancellationToken cancellation) =>
        (trace.ReadsLatest ? query.Latest : query).RunAsync(arguments, rows, cancellation);

    public void End() => trace.Add(query, arguments, rows, rows.Count - _before, started);

    public void Fail(SourceException trouble)
    {
        trace.Add(query, arguments, null, 0, started);
        if (trouble.IsFinding)
            trace.Finding = trouble.Message;
    }
}
