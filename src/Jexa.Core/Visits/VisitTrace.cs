using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The steps of a visit, in their only order.</summary>
public enum VisitStep
{
    Match,
    Parse,
    Load,
    Decide,
    Answer,
}

/// <summary>One query that a visit ran.</summary>
/// <param name="Rows">The first rows, long values cut.</param>
/// <param name="RowCount">How many rows came in all.</param>
/// <param name="Ticks">How long it took, in the trace's clock.</param>
public readonly record struct TracedQuery(IPreparedQuery Query, IReadOnlyList<Constant> Arguments, RowBlock? Rows, int RowCount, long Ticks)
{
    /// <summary>What the source said beside the rows.</summary>
    public string? Remark { get; init; }
}

/// <summary>A parameter as it was read.</summary>
/// <param name="Raw">The decoded text; null where it was absent or could not be decoded.</param>
public readonly record struct TracedParameter(string Name, string? Raw, KeyReading Reading);

/// <summary>
/// What one visit did: references and timestamps only. It is put into words when somebody reads it
/// (<see cref="TraceReport"/>), so that a visit nobody asks about costs next to nothing.
/// </summary>
public sealed class VisitTrace
{
    private const int RowLimit = 3;
    private const int ValueLimit = 200;
    private const int TargetLimit = 4096;
    private const int MostIgnored = 20;

    private readonly TimeProvider _clock;
    private readonly List<TracedParameter> _parameters = new(2);
    private readonly List<TracedQuery> _queries = new(2);
    private readonly Stack<RowBlock> _spareRows = new(2);
    private readonly List<KeptConstants> _arguments = new(2);

    /// <summary>What the visit's own objects said, once the trace has settled: the target, the text and the value of each parameter, the arguments of each query.</summary>
    private readonly RowBlock _kept = new(8, 128);

    private bool _isSettled;
    private string? _target;
    private RequestTarget? _reading;
    private List<string>? _ignored;
    private StepEnds _ends;
    private long _start;

    public VisitTrace(string method, string target, TimeProvider clock)
    {
        _clock = clock;
        Begin(method, target);
    }

    /// <summary>Counts up from 1 while the service runs; 0 for a visit that was only tried.</summary>
    public long Number { get; set; }

    public DateTimeOffset At { get; private set; }

    public string Method { get; private set; }

    /// <summary>The address the visit came from, as far as it is known: a proxy's visitors only where the proxy is trusted.</summary>
    public IPAddress? Visitor { get; set; }

    /// <summary>The raw target, cut where it is very long.</summary>
    public string Target => _target ?? _kept[0].Text(0);

    /// <summary>Whether the page was asked for by a frame: only the console may hold one.</summary>
    public bool Framed { get; set; }

    public Site? Site { get; set; }

    public RequestTarget? Reading
    {
        get => _isSettled && Site is { } site ? RequestTarget.Read(Target, site.Frame.Mount) : _reading;
        set => _reading = value;
    }

    public Page? Page { get; set; }

    public IReadOnlyList<TracedParameter> Parameters => _isSettled ? [.. _parameters.Select(Told)] : _parameters;

    /// <summary>Names in the query string that no parameter has.</summary>
    public IReadOnlyList<string> Ignored => _ignored ?? [];

    public IReadOnlyList<TracedQuery> Queries => _queries;

    public Outcome? Outcome { get; set; }

    public int Status { get; set; }

    public string? Location { get; set; }

    /// <summary>Why it came to this, for the developer: what the source said, which rule decided.</summary>
    public string? Why { get; set; }

    /// <summary>Whether the visit must see every change that was made, and so is never answered from a replica.</summary>
    public bool ReadsLatest { get; set; }

    /// <summary>What the visit showed to be wrong with the app or its source, for the developer; null where it showed nothing.</summary>
    public string? Finding { get; set; }

    public void End(VisitStep step) => _ends[(int)step] = _clock.GetTimestamp();

    /// <summary>How long a step took, in microseconds; null where the visit never came to it.</summary>
    public double? Microseconds(VisitStep step)
    {
        if (_ends[(int)step] == 0) return null;
        var before = _start;
        for (var i = 0; i < (int)step; i++)
            if (_ends[i] != 0) before = _ends[i];
        return _clock.GetElapsedTime(before, _ends[(int)step]).TotalMicroseconds;
    }

    /// <summary>The steps that the visit came to, by their words, and how long each took in microseconds.</summary>
    public IEnumerable<(string Step, double Microseconds)> Timings
    {
        get
        {
            foreach (var step in Enum.GetValues<VisitStep>())
                if (Microseconds(step) is { } microseconds) yield return (step.ToString().ToLowerInvariant(), microseconds);
        }
    }

    public double TotalMicroseconds
    {
        get
        {
            var last = _start;
            foreach (var end in _ends) last = Math.Max(last, end);
            return _clock.GetElapsedTime(_start, last).TotalMicroseconds;
        }
    }

    public double MicrosecondsOf(TracedQuery query) => _clock.GetElapsedTime(0, query.Ticks).TotalMicroseconds;

    public void Add(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock? rows, int count, long started) =>
        _queries.Add(new TracedQuery(query, arguments, rows is null ? null : Copy(rows, query.SecretCells), count, _clock.GetTimestamp() - started) { Remark = rows?.Remark });

    /// <summary>Notes a change as its engine would write it, secrets left out.</summary>
    public void AddWrite(string shown, int rows, long started) =>
        _queries.Add(new TracedQuery(new ShownWrite(shown), [], null, rows, _clock.GetTimestamp() - started));

    public void Add(TracedParameter parameter) => _parameters.Add(parameter);

    /// <summary>Notes a name in the query string that nothing reads; the first ones are kept.</summary>
    public void AddIgnored(string name)
    {
        if (Ignored.Count < MostIgnored) (_ignored ??= []).Add(name);
    }

    /// <summary>
    /// Forgets everything and begins with another visit. Traces are used again: the log keeps so many of them alive that new
    /// ones for every visit would cost more in collecting them than in making them.
    /// </summary>
    [MemberNotNull(nameof(Method))]
    internal void Begin(string method, string target)
    {
        foreach (var query in _queries)
            if (query.Rows is { } rows) _spareRows.Push(rows);
        _queries.Clear();
        _parameters.Clear();
        _ignored = null;
        _ends = default;
        (Number, Visitor, Framed, Site, Reading, Page, Outcome, Status, Location, Why, Finding) = (0, null, false, null, null, null, null, 0, null, null, null);
        _isSettled = false;
        Method = method;
        _target = target.Length <= TargetLimit ? target : target[..TargetLimit];
        At = _clock.GetUtcNow();
        _start = _clock.GetTimestamp();
    }

    /// <summary>Lets go of every object that is the visit's own, for the log to keep what they said.</summary>
    internal void Settle()
    {
        // Of a target that was cut not everything can be told again.
        if (_isSettled || _target is null || (_reading is not null && _reading.Raw.Length != _target.Length)) return;
        _kept.Reset(1);
        _kept.BeginRow();
        _kept.AddText(_target);
        for (var i = 0; i < _parameters.Count; i++)
        {
            var (name, raw, reading) = _parameters[i];
            _kept.BeginRow();
            if (raw is null) _kept.AddNull();
            else _kept.AddText(raw);
            KeptConstants.Add(reading.Value, _kept);
            _parameters[i] = new TracedParameter(name, null, reading.With(null));
        }

        for (var i = 0; i < _queries.Count; i++)
        {
            if (_arguments.Count == i) _arguments.Add(new KeptConstants());
            _arguments[i].Keep(_queries[i].Arguments, _kept);
            _queries[i] = _queries[i] with { Arguments = _arguments[i] };
        }

        (_target, _reading, _isSettled) = (null, null, true);
    }

    private TracedParameter Told(TracedParameter parameter, int number)
    {
        var at = 1 + (number * 2);
        var raw = _kept[at];
        return new TracedParameter(parameter.Name, raw[0].IsNull ? null : raw.Text(0),
            parameter.Reading.Fault == KeyFault.None && !_kept[at + 1][0].IsNull ? parameter.Reading.With(KeptConstants.Read(_kept, at + 1)) : parameter.Reading);
    }

    private RowBlock Copy(RowBlock rows, IReadOnlyList<int> secret)
    {
        if (!_spareRows.TryPop(out var copy)) copy = new RowBlock(0, 0);
        rows.CopyCut(RowLimit, ValueLimit, copy, secret);
        return copy;
    }

    /// <summary>About how much memory the trace keeps alive of its own, in bytes.</summary>
    public int Size
    {
        get
        {
            var size = 600 + (((_target?.Length ?? 0) + (_reading?.Raw.Length ?? 0)) * 2) + ((_reading?.Segments.Length ?? 0) * 24) + ((_reading?.Query.Count ?? 0) * 100) + _kept.Capacity
                + (((Why?.Length ?? 0) + (Location?.Length ?? 0)) * 2);
            foreach (var parameter in _parameters) size += 100 + ((parameter.Raw?.Length ?? 0) * 2);
            if (_ignored is not null)
                foreach (var name in _ignored) size += 40 + (name.Length * 2);
            foreach (var query in _queries) size += 150 + ((query.Remark?.Length ?? 0) * 2) + (query.Rows?.Capacity ?? 0) + (_isSettled ? 0 : SizeOf(query.Arguments));
            return size;
        }
    }

    /// <summary>When each step ended, in the trace's clock; 0 for a step that was not reached.</summary>
    [InlineArray(5)]
    private struct StepEnds
    {
        private long _first;
    }

    private static int SizeOf(IReadOnlyList<Constant> constants)
    {
        var size = 0;
        for (var i = 0; i < constants.Count; i++) size += SizeOf(constants[i]);
        return size;
    }

    private static int SizeOf(Constant constant) => constant switch
    {
        Constant.Text text => 40 + (text.Value.Length * 2),
        Constant.Bytes bytes => 40 + bytes.Value.Length,
        _ => 24,
    };
}

/// <summary>A change, in traces only.</summary>
internal sealed class ShownWrite(string text) : IPreparedQuery
{
    private const int Most = 2000;

    public int Width => 0;

    public IReadOnlyList<string> ColumnNames => [];

    public ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation) => throw new NotSupportedException();

    public string Shown(IReadOnlyList<Constant> arguments) => text.Length <= Most ? text : text[..Most] + "…";
}
