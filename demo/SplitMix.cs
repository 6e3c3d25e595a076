namespace Jexa.Demo;

/// <summary>SplitMix64: a small generator whose numbers are the same on every platform and version.</summary>
public sealed class SplitMix(ulong seed)
{
    private ulong _state = seed;

    /// <summary>A whole number from 0 up to, not including, <paramref name="limit"/>.</summary>
    public int Below(int limit) => (int)(Next() % (ulong)limit);

    public T Pick<T>(IReadOnlyList<T> from) => from[Below(from.Count)];

    private ulong Next()
    {
        var z = _state += 0x9E3779B97F4A7C15;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }
}
