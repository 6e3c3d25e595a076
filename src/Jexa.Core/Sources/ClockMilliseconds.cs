namespace Jexa.Core.Sources;

/// <summary>A clock as a count of milliseconds.</summary>
public static class ClockMilliseconds
{
    /// <summary>Milliseconds since an unknown moment: only their differences mean something. They never go back.</summary>
    public static long Milliseconds(this TimeProvider clock) =>
        (long)clock.GetElapsedTime(0, clock.GetTimestamp()).TotalMilliseconds;
}
