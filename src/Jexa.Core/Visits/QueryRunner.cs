using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>Runs the queries of a visit, fills blocks, and notes each query in the trace.</summary>
internal sealed class QueryRunner(TimeProvider clock)
{
    private const int KeptBlocks = 64;
    private const int LargestKeptBlock = 1024 * 1024;

    private readonly Spares<RowBlock> _blocks = new();

    public TimeProvider Clock => clock;

    /// <summary>The blocks of one visit.</summary>
    public RowLoans Begin() => new(this);

    public ValueTask RunAsync(WindowQuery query, RowBlock rows, VisitTrace trace, CancellationToken cancellation) =>
        RunAsync(query.Query, query.Arguments, rows, trace, cancellation);

    public ValueTask RunAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock rows, Visit visit) =>
        RunAsync(query, arguments, rows, visit.Trace, visit.Cancellation);

    public async ValueTask RunAsync(
        IPreparedQuery query,
        IReadOnlyList<TypedValue> arguments,
        RowBlock rows,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var started = clock.GetTimestamp();
        var before = rows.Count;
        try
        {
            await (trace.ReadsLatest ? query.Latest : query).RunAsync(arguments, rows, cancellation);
        }
        catch (SourceException trouble)
        {
            trace.Add(query, arguments, null, 0, started);
            if (trouble.IsFinding)
                trace.Finding = trouble.Message;
            throw;
        }

        trace.Add(query, arguments, rows, rows.Count - before, started);
    }

    internal RowBlock Take() => _blocks.Take() ?? new RowBlock();

    internal void GiveBack(RowBlock rows)
    {
        if (rows.Capacity <= LargestKeptBlock)
            _blocks.Add(rows, KeptBlocks);
    }
}
