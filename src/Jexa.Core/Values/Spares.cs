using System.Collections.Concurrent;

namespace Jexa.Core.Values;

/// <summary>
/// Objects that somebody is done with and somebody else will need, so that they are not made anew for every visit. Safe for
/// concurrent use.
/// </summary>
internal sealed class Spares<T>
    where T : class
{
    private readonly ConcurrentQueue<T> _more = [];

    /// <summary>As long as visits do not overlap, one place is all that is needed.</summary>
    private T? _first;

    /// <summary>One of them, the caller's alone from now on; null if there is none.</summary>
    public T? Take()
    {
        var first = _first;
        return first is not null && Interlocked.CompareExchange(ref _first, null, first) == first ? first
            : _more.TryDequeue(out var next) ? next
            : null;
    }

    /// <param name="most">One more than these is let go of.</param>
    public void Add(T spare, int most = int.MaxValue)
    {
        if (_first is null && Interlocked.CompareExchange(ref _first, spare, null) is null)
            return;
        if (most == int.MaxValue || _more.Count < most)
            _more.Enqueue(spare);
    }
}
