using Jexa.Core.Visits;

namespace Jexa.Service.Health;

/// <summary>
/// Counts outcomes by the second, for some minutes. Safe for concurrent use; a count may be wrong by a few when a second ends.
/// </summary>
internal sealed class OutcomeSeconds
{
    private static readonly Dictionary<OutcomeKind, int> Numbers = OutcomeKind
        .All.Select((kind, number) => (kind, number))
        .ToDictionary(pair => pair.kind, pair => pair.number);

    private readonly Slot[] _slots = [.. Enumerable.Range(0, VisitFigures.Seconds + 1).Select(_ => new Slot())];
    private readonly Lock _turning = new();

    /// <param name="second">A second of Unix time.</param>
    public void Add(OutcomeKind kind, long second)
    {
        var slot = _slots[second % _slots.Length];
        if (Volatile.Read(ref slot.Second) != second)
        {
            lock (_turning)
            {
                if (slot.Second != second)
                    Array.Clear(slot.Counts);
                Volatile.Write(ref slot.Second, second);
            }
        }

        Interlocked.Increment(ref slot.Counts[Numbers[kind]]);
    }

    /// <summary>The seconds that had visits, from one on, in order.</summary>
    public IReadOnlyList<(long Second, IReadOnlyList<(string Outcome, int Visits)> Counts)> Since(long second) =>
        [
            .. _slots
                .Select(slot => (slot, at: Volatile.Read(ref slot.Second)))
                .Where(pair => pair.at >= second && pair.at > 0)
                .OrderBy(pair => pair.at)
                .Select(pair =>
                    (
                        pair.at,
                        (IReadOnlyList<(string, int)>)
                            [
                                .. OutcomeKind
                                    .All.Select((kind, number) => (kind.Word, Volatile.Read(ref pair.slot.Counts[number])))
                                    .Where(count => count.Item2 > 0),
                            ]
                    )
                ),
        ];

    private sealed class Slot
    {
        public long Second;

        public int[] Counts { get; } = new int[OutcomeKind.All.Count];
    }
}
