namespace Jexa.Core.Visits;

/// <summary>The latest visits, bounded in number and in bytes. Safe for concurrent use.</summary>
public sealed class VisitLog(int capacity = VisitLog.DefaultCapacity, long byteLimit = VisitLog.DefaultByteLimit)
{
    public const int DefaultCapacity = 1000;
    public const long DefaultByteLimit = 16 * 1024 * 1024;

    private readonly Lock _lock = new();
    private readonly Queue<(VisitTrace Trace, int Size)> _visits = new(capacity);
    private long _bytes;
    private long _last;

    /// <summary>About how much memory the log keeps alive.</summary>
    public long Bytes
    {
        get
        {
            lock (_lock) return _bytes;
        }
    }

    /// <summary>Gives the next visit its number.</summary>
    public long NextNumber() => Interlocked.Increment(ref _last);

    public void Add(VisitTrace trace)
    {
        var size = trace.Size;
        lock (_lock)
        {
            _visits.Enqueue((trace, size));
            _bytes += size;
            while (_visits.Count > capacity || (_bytes > byteLimit && _visits.Count > 1)) _bytes -= _visits.Dequeue().Size;
        }
    }

    /// <summary>The visits that are kept, newest first.</summary>
    public IReadOnlyList<VisitTrace> Latest()
    {
        lock (_lock) return [.. _visits.Select(visit => visit.Trace).Reverse()];
    }

    /// <summary>The visit of this number; null where it is not kept (any more).</summary>
    public VisitTrace? Find(long number)
    {
        lock (_lock) return _visits.FirstOrDefault(visit => visit.Trace.Number == number).Trace;
    }
}
