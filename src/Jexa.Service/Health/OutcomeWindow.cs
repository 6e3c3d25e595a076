namespace Jexa.Service.Health;

/// <summary>
/// Counts the outcomes of the last ten seconds. Safe for concurrent use. A count may be wrong by a few when a second ends.
/// </summary>
internal sealed class OutcomeWindow
{
    private const int Seconds = 10;

    private readonly Lock _turning = new();
    private readonly Slot[] _slots = new Slot[Seconds + 1];

    /// <param name="second">Seconds since any fixed moment.</param>
    public void Add(bool well, long second)
    {
        ref var slot = ref _slots[second % _slots.Length];
        if (Volatile.Read(ref slot.Second) != second)
        {
            lock (_turning)
            {
                if (slot.Second != second)
                    (slot.Well, slot.Ill) = (0, 0);
                Volatile.Write(ref slot.Second, second);
            }
        }

        Interlocked.Increment(ref well ? ref slot.Well : ref slot.Ill);
    }

    /// <summary>The number of good and bad visits in the last ten seconds.</summary>
    public (int Well, int Ill) Count(long second)
    {
        var (well, ill) = (0, 0);
        foreach (ref var slot in _slots.AsSpan())
        {
            var at = Volatile.Read(ref slot.Second);
            if (at == 0 || at > second || at <= second - Seconds)
                continue;
            well += Volatile.Read(ref slot.Well);
            ill += Volatile.Read(ref slot.Ill);
        }

        return (well, ill);
    }

    private struct Slot
    {
        public long Second;
        public int Well;
        public int Ill;
    }
}
