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
        IReadOnlyList<Constant> arguments,
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
    /// For the page that is visited most, which waits for its query without a step in between: tell it how the query ended.
    /// </summary>
    public TracedRun Begin(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock rows, VisitTrace trace) =>
        new(query, arguments, rows, trace, clock.GetTimestamp());

    internal RowBlock Take() => _blocks.Take() ?? new RowBlock();

    internal void GiveBack(RowBlock rows)
    {
        if (rows.Capacity <= LargestKeptBlock)
            _blocks.Add(rows, KeptBlocks);
    }
}

/// <summary>A query that is run for a visit, and noted in its trace when it ends.</summary>
internal readonly struct TracedRun(
    IPreparedQuery query,
    IReadOnlyList<Constant> arguments,
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

/// <summary>The blocks that one visit has lent: given back once its answer is written.</summary>
internal sealed class RowLoans(QueryRunner runner) : IDisposable
{
    private RowBlock? _first;
    private List<RowBlock>? _more;

    public RowBlock Lend(int width)
    {
        var rows = runner.Take();
        rows.Reset(width);
        if (_first is null)
            _first = rows;
        else
            (_more ??= []).Add(rows);
        return rows;
    }

    public void Dispose()
    {
        if (_first is { } first)
            runner.GiveBack(first);
        _first = null;
        if (_more is null)
            return;
        foreach (var rows in _more)
            runner.GiveBack(rows);
        _more = null;
    }
}
