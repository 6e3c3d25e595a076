using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Traces;

/// <summary>
/// The latest visits, bounded in number and in bytes. Safe for concurrent use. <see cref="Add"/> takes a trace, keeps its content
/// and uses the trace again for another visit.
/// </summary>
public sealed class VisitLog(int capacity = VisitLog.DefaultCapacity, long byteLimit = VisitLog.DefaultByteLimit)
{
    /// <summary>The number of visits kept if nothing else is set.</summary>
    public const int DefaultCapacity = 1000;

    /// <summary>The bytes of visits kept if nothing else is set: 16 MiB.</summary>
    public const long DefaultByteLimit = 16 * 1024 * 1024;

    private const int MostSpareTraces = 64;

    /// <summary>Larger traces are not used again: one long visit must not make all later ones keep as much memory.</summary>
    private const int LargestKept = 8 * 1024;

    private readonly Lock _lock = new();
    private readonly Queue<(KeptVisit Visit, int Size)> _visits = new(capacity);

    private readonly Spares<VisitTrace> _traces = new();

    /// <summary>Entries to use again; never more than the visits being added at the same time.</summary>
    private readonly Spares<KeptVisit> _spare = new();
    private long _bytes;
    private long _last;

    /// <summary>The approximate memory that the log keeps, in bytes.</summary>
    public long Bytes
    {
        get
        {
            lock (_lock)
                return _bytes;
        }
    }

    /// <summary>A trace for a visit that begins now, with the next number.</summary>
    public VisitTrace Begin(string method, string target, TimeProvider clock)
    {
        if (_traces.Take() is { } trace)
            trace.Begin(method, target);
        else
            trace = new VisitTrace(method, target, clock);
        trace.Number = Interlocked.Increment(ref _last);
        return trace;
    }

    /// <summary>Keeps a visit that has ended. Nobody may use its trace after that.</summary>
    public void Add(VisitTrace trace)
    {
        var visit = _spare.Take() ?? new KeptVisit();
        visit.Keep(trace);
        var size = visit.Size;
        if (size <= LargestKept)
            _traces.Add(trace, MostSpareTraces);
        lock (_lock)
        {
            _visits.Enqueue((visit, size));
            _bytes += size;
            while (_visits.Count > capacity || (_bytes > byteLimit && _visits.Count > 1))
            {
                var (old, oldSize) = _visits.Dequeue();
                _bytes -= oldSize;
                if (oldSize <= LargestKept)
                    _spare.Add(old);
            }
        }
    }

    /// <summary>The outcome of each visit that is kept; null if the visitor left.</summary>
    public IReadOnlyList<Outcome?> Outcomes
    {
        get
        {
            lock (_lock)
                return [.. _visits.Select(kept => kept.Visit.Outcome)];
        }
    }

    /// <summary>Reads visits by their number, the last first.</summary>
    /// <param name="outcome">The word of the outcome to read; null for all.</param>
    /// <param name="most">The most visits to read.</param>
    public IReadOnlyList<TSaid> Read<TSaid>(Func<VisitTrace, TSaid> ask, string? outcome = null, int most = int.MaxValue)
    {
        // Visits are kept in the order in which they end, but numbered in the order in which they begin.
        lock (_lock)
        {
            return
            [
                .. _visits
                    .Select(kept => kept.Visit)
                    .Where(visit => outcome is null || visit.Outcome?.Word == outcome)
                    .OrderByDescending(visit => visit.Number)
                    .Take(most)
                    .Select(visit => ask(visit.Tell())),
            ];
        }
    }

    /// <summary>Reads the visit with this number; null if it is not kept.</summary>
    public TSaid? Read<TSaid>(long number, Func<VisitTrace, TSaid> ask)
        where TSaid : class
    {
        lock (_lock)
            return _visits.FirstOrDefault(kept => kept.Visit.Number == number).Visit is { } visit ? ask(visit.Tell()) : null;
    }
}
