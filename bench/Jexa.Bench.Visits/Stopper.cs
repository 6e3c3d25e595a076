using System.Diagnostics;

namespace Jexa.Bench.Visits;

/// <summary>Times something that is done many times over, and says what it allocates.</summary>
internal static class Stopper
{
    private const int Rounds = 8;

    /// <summary>Microseconds and bytes of one run, the best of several rounds.</summary>
    public static async Task<(double Microseconds, long Bytes)> TakeAsync(int times, Func<ValueTask<int>> run)
    {
        var (best, bytes) = (double.MaxValue, 0L);
        for (var round = 0; round < Rounds; round++)
        {
            var before = GC.GetAllocatedBytesForCurrentThread();
            var started = Stopwatch.GetTimestamp();
            for (var i = 0; i < times; i++)
                await run();
            best = Math.Min(best, Stopwatch.GetElapsedTime(started).TotalMicroseconds / times);
            bytes = (GC.GetAllocatedBytesForCurrentThread() - before) / times;
        }

        return (best, bytes);
    }
}
