namespace Jexa.Core.Sources;

/// <summary>Waits that take their time from a given clock.</summary>
public static class ClockWaits
{
    /// <summary>Waits for a place. False if none came free in time.</summary>
    public static async ValueTask<bool> WaitAsync(
        this SemaphoreSlim places,
        TimeSpan limit,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        cancellation.ThrowIfCancellationRequested();
        if (places.Wait(0, CancellationToken.None))
            return true;
        using var wait = new LimitedWait(limit, clock, cancellation);
        try
        {
            await places.WaitAsync(wait.Token);
            return true;
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            return false;
        }
    }
}
