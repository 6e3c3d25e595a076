using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>Runs a visit's queries into blocks that it lends, and notes each in the trace.</summary>
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

    public async ValueTask RunAsync(
        IPreparedQuery query,
        IReadOnlyList<TypedValue> arguments,
        RowBlock rows,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var run = Begin(query, arguments, rows, trace);
        try
        {
            await run.RunAsync(cancellation);
        }
        catch (SourceException trouble)
        {
            run.Fail(trouble);
            throw;
        }

        run.End();
    }

    /// <summary>
    /// Avoids one async state machine on the page that is visited most. Tell it how the query ended.
    /// </summary>
    public TracedRun Begin(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock rows, VisitTrace trace) =>
        new(query, arguments, rows, trace, clock.GetTimestamp());

    internal RowBlock Take() => _blocks.Take() ?? new RowBlock();

    internal void GiveBack(RowBlock rows)
    {
        if (rows.Capacity <= LargestKeptBlock)
            _blocks.Add(rows, KeptBlocks);
    }
}
