using System.Diagnostics.CodeAnalysis;
using System.Net;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// What one visit did: references and timestamps only. <c>TraceReport</c> puts it into words when somebody reads it, so that a
/// visit costs next to nothing if nobody does.
/// </summary>
public sealed class VisitTrace
{
    internal const string FormerPath = "The page had this path before.";

    private const int RowLimit = 3;
    private const int ValueLimit = 200;
    private const int TargetLimit = 4096;
    private const int MostIgnored = 20;

    private readonly TimeProvider _clock;
    private readonly List<TracedParameter> _parameters = new(2);
    private readonly List<TracedQuery> _queries = new(2);
    private readonly Stack<RowBlock> _spareRows = new(2);
    private List<string>? _ignored;
    private TraceState _state;

    /// <summary>Begins the trace of a visit.</summary>
    public VisitTrace(string method, string target, TimeProvider clock)
    {
        _clock = clock;
        Begin(method, target);
    }

    /// <summary>A trace that the log made again.</summary>
    internal VisitTrace(TraceState state, string target)
    {
        _clock = state.Clock;
        (_state, Target) = (state, target);
    }

    /// <summary>From 1 since the service began; 0 for a visit that was only tried.</summary>
    public long Number
    {
        get => _state.Number;
        set => _state.Number = value;
    }

    /// <summary>When the visit began.</summary>
    public DateTimeOffset At => _state.At;

    /// <summary>The request's method.</summary>
    public string Method => _state.Method;

    /// <summary>The address of the visitor, if known. For a proxy's visitors it is known only if the proxy is trusted.</summary>
    public IPAddress? Visitor
    {
        get => _state.Visitor;
        set => _state.Visitor = value;
    }

    /// <summary>The raw target, cut if it is very long.</summary>
    public string Target { get; private set; }

    /// <summary>Whether a frame asked for the page: only the console may have one.</summary>
    public bool Framed
    {
        get => _state.Framed;
        set => _state.Framed = value;
    }

    /// <summary>The site that served the visit. Null if there was none.</summary>
    public Site? Site
    {
        get => _state.Site;
        set => _state.Site = value;
    }

    /// <summary>The request target as it was read. Null before that.</summary>
    public RequestTarget? Reading { get; set; }

    /// <summary>The page. Null if none was found.</summary>
    public Page? Page
    {
        get => _state.Page;
        set => _state.Page = value;
    }

    /// <summary>The parameters, in the order they were read.</summary>
    public IReadOnlyList<TracedParameter> Parameters => _parameters;

    /// <summary>Names in the query string that are no parameters.</summary>
    public IReadOnlyList<string> Ignored => _ignored is { } names ? names : [];

    /// <summary>The queries, in the order they ended.</summary>
    public IReadOnlyList<TracedQuery> Queries => _queries;

    /// <summary>The outcome. Null while the visit runs.</summary>
    public Outcome? Outcome
    {
        get => _state.Outcome;
        set => _state.Outcome = value;
    }

    /// <summary>The status of the answer. 0 while the visit runs.</summary>
    public int Status
    {
        get => _state.Status;
        set => _state.Status = value;
    }

    /// <summary>Where a redirect leads. Null if the answer is none.</summary>
    public string? Location
    {
        get => _state.Location;
        set => _state.Location = value;
    }

    /// <summary>The reason for the outcome, for the developer: what the source said, or which rule decided.</summary>
    public string? Why
    {
        get => _state.Why;
        set => _state.Why = value;
    }

    /// <summary>Whether the visit must see all changes. Then it never reads from a replica.</summary>
    public bool ReadsLatest { get; set; }

    /// <summary>What the visit showed to be wrong with the app or its source, for the developer; null for nothing.</summary>
    public string? Finding
    {
        get => _state.Finding;
        set => _state.Finding = value;
    }

    /// <summary>The part that is no longer than a few words, for the log.</summary>
    internal ref readonly TraceState State => ref _state;

    /// <summary>Whether the visit reached a step.</summary>
    internal bool Has(VisitStep step) => _state.Ends[(int)step] != 0;

    /// <summary>Says that a step has ended.</summary>
    public void End(VisitStep step) => _state.Ends[(int)step] = _clock.GetTimestamp();

    /// <summary>The duration of a step in microseconds; null if the visit did not reach it.</summary>
    public double? Microseconds(VisitStep step)
    {
        if (_state.Ends[(int)step] == 0)
            return null;
        var before = _state.Start;
        for (var i = 0; i < (int)step; i++)
            if (_state.Ends[i] != 0)
                before = _state.Ends[i];
        return _clock.GetElapsedTime(before, _state.Ends[(int)step]).TotalMicroseconds;
    }

    /// <summary>The steps that the visit reached, and the duration of each in microseconds.</summary>
    public IEnumerable<(string Step, double Microseconds)> Timings
    {
        get
        {
            foreach (var step in Enum.GetValues<VisitStep>())
                if (Microseconds(step) is { } microseconds)
                    yield return (step.ToString().ToLowerInvariant(), microseconds);
        }
    }

    /// <summary>The time from first to last step, in microseconds.</summary>
    public double TotalMicroseconds
    {
        get
        {
            var last = _state.Start;
            foreach (var end in _state.Ends)
                last = Math.Max(last, end);
            return _clock.GetElapsedTime(_state.Start, last).TotalMicroseconds;
        }
    }

    /// <summary>The time that a query took, in microseconds.</summary>
    public double MicrosecondsOf(TracedQuery query) => _clock.GetElapsedTime(0, query.Ticks).TotalMicroseconds;

    /// <summary>Adds a query with its arguments and its result.</summary>
    public void Add(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock? rows, int count, long started) =>
        _queries.Add(
            new TracedQuery(
                query,
                arguments,
                rows is null ? null : Copy(rows, rows.Count - count, query.SecretCells),
                count,
                _clock.GetTimestamp() - started
            )
            {
                Remark = rows?.Remark,
            }
        );

    /// <summary>Notes a change as its engine would write it, without secrets.</summary>
    public void AddWrite(string shown, int rows, long started) =>
        _queries.Add(new TracedQuery(new ShownWrite(shown), [], null, rows, _clock.GetTimestamp() - started));

    internal void Add(in TracedQuery query) => _queries.Add(query);

    /// <summary>Adds a parameter as it was read.</summary>
    public void Add(TracedParameter parameter) => _parameters.Add(parameter);

    /// <summary>Notes a name in the query string that nothing reads. Only the first ones are kept.</summary>
    public void AddIgnored(string name)
    {
        if (Ignored.Count < MostIgnored)
            (_ignored ??= []).Add(name);
    }

    /// <summary>
    /// Empties the trace for another visit. Traces are used again: the log keeps many of them, and collecting that many new ones
    /// would cost more than making them.
    /// </summary>
    [MemberNotNull(nameof(Target))]
    internal void Begin(string method, string target)
    {
        foreach (var query in _queries)
            if (query.Rows is { } rows)
                _spareRows.Push(rows);
        _queries.Clear();
        _parameters.Clear();
        _ignored = null;
        Reading = null;
        Target = target.Length <= TargetLimit ? target : target[..TargetLimit];
        _state = new TraceState
        {
            Clock = _clock,
            Method = method,
            At = _clock.GetUtcNow(),
            Start = _clock.GetTimestamp(),
        };
    }

    /// <summary>The rows of one query. The block may begin with rows of an earlier one.</summary>
    private RowBlock Copy(RowBlock rows, int first, IReadOnlyList<int> secret)
    {
        if (!_spareRows.TryPop(out var copy))
            copy = new RowBlock(0, 0);
        rows.CopyCut(first, RowLimit, ValueLimit, copy, secret);
        return copy;
    }
}
