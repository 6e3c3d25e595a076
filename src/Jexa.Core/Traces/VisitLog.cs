using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Traces;

/// <summary>
/// The latest visits, bounded in number and in bytes. Safe for concurrent use. A trace is given back to the log by
/// <see cref="Add"/>, which keeps what it says and uses the trace again for another visit.
/// </summary>
public sealed class VisitLog(int capacity = VisitLog.DefaultCapacity, long byteLimit = VisitLog.DefaultByteLimit)
{
    public const int DefaultCapacity = 1000;
    public const long DefaultByteLimit = 16 * 1024 * 1024;

    private const int MostSpareTraces = 64;

    /// <summary>Larger ones are not used again: one long visit must not make every later one keep as much.</summary>
    private const int LargestKept = 8 * 1024;

    private readonly Lock _lock = new();
    private readonly Queue<(KeptVisit Visit, int Size)> _visits = new(capacity);

    private readonly Spares<VisitTrace> _traces = new();

    /// <summary>Visits that were pushed out; no more than are being added at a time.</summary>
    private readonly Spares<KeptVisit> _spare = new();
    private long _bytes;
    private long _last;

    /// <summary>About how much memory the log keeps alive.</summary>
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

    /// <summary>Keeps a visit that has ended; nobody may touch its trace after.</summary>
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

    /// <summary>What the visits that are kept came to, each one's; null for one whose visitor left.</summary>
    public IReadOnlyList<Outcome?> Outcomes
    {
        get
        {
            lock (_lock)
                return [.. _visits.Select(kept => kept.Visit.Outcome)];
        }
    }

    /// <summary>What is asked of the visits that are kept, by their numbers, the last first.</summary>
    /// <param name="outcome">The word of the outcome of those that are asked; all where left out.</param>
    /// <param name="most">The most that are asked.</param>
    public IReadOnlyList<TSaid> Read<TSaid>(Func<VisitTrace, TSaid> ask, string? outcome = null, int most = int.MaxValue)
    {
        // Visits are kept as they end; their numbers are given as they begin.
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

    /// <summary>What is asked of the visit of this number; null if it is not kept (any more).</summary>
    public TSaid? Read<TSaid>(long number, Func<VisitTrace, TSaid> ask)
        where TSaid : class
    {
        lock (_lock)
            return _visits.FirstOrDefault(kept => kept.Visit.Number == number).Visit is { } visit ? ask(visit.Tell()) : null;
    }
}
