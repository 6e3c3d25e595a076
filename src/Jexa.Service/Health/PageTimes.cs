using System.Numerics;

namespace Jexa.Service.Health;

/// <summary>How long the visits of a page took: a histogram of four steps in each doubling, so within a fifth.</summary>
internal sealed class PageTimes
{
    private const int Steps = 4;
    private readonly int[] _counts = new int[32 * Steps];
    private long _visits;

    /// <summary>The number of visits.</summary>
    public long Visits => Volatile.Read(ref _visits);

    public void Add(double microseconds)
    {
        Interlocked.Increment(ref _counts[StepOf((long)microseconds)]);
        Interlocked.Increment(ref _visits);
    }

    /// <summary>The time, in microseconds, that a part of the visits took at most: 0.5 for the median.</summary>
    public double At(double part)
    {
        var left = Math.Max(1, (long)Math.Ceiling(Visits * part));
        for (var step = 0; step < _counts.Length; step++)
            if ((left -= Volatile.Read(ref _counts[step])) <= 0)
                return End(step);
        return End(_counts.Length - 1);
    }

    private static int StepOf(long microseconds)
    {
        var value = (uint)Math.Clamp(microseconds, 1, int.MaxValue);
        var doubling = BitOperations.Log2(value);
        var within = doubling < 2 ? 0 : (int)((value >> (doubling - 2)) & 3);
        return (doubling * Steps) + within;
    }

    /// <summary>The end of a step, in microseconds.</summary>
    private static double End(int step) => Math.Pow(2, step / Steps) * (1 + (((step % Steps) + 1) / (double)Steps));
}
