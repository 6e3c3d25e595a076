using System.Collections.Concurrent;

namespace Jexa.Core.Values;

/// <summary>
/// Objects that are no longer used and can be used again, so that visits allocate fewer of them. Safe for concurrent use.
/// </summary>
internal sealed class Spares<T>
    where T : class
{
    private readonly ConcurrentQueue<T> _more = [];

    /// <summary>One place is enough as long as visits do not overlap.</summary>
    private T? _first;

    /// <summary>Takes one object out; the caller then owns it. Null if there is none.</summary>
    public T? Take()
    {
        var first = _first;
        return first is not null && Interlocked.CompareExchange(ref _first, null, first) == first ? first
            : _more.TryDequeue(out var next) ? next
            : null;
    }

    /// <param name="most">Keeps at most this number of objects, and one more.</param>
    public void Add(T spare, int most = int.MaxValue)
    {
        if (_first is null && Interlocked.CompareExchange(ref _first, spare, null) is null)
            return;
        if (most == int.MaxValue || _more.Count < most)
            _more.Enqueue(spare);
    }
}
