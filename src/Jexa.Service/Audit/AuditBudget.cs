namespace Jexa.Service.Audit;

/// <summary>Counts and paces the requests of an audit, and says when there were enough.</summary>
internal sealed class AuditBudget(AuditLimits limits, TimeProvider clock, Action<string, long> tell, CancellationToken stop)
{
    /// <summary>The longest time that an application may ask to wait.</summary>
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(30);

    private readonly long _started = clock.GetTimestamp();
    private string? _refused;
    private int _requests;

    public AuditLimits Limits => limits;

    public TimeProvider Clock => clock;

    /// <summary>How many requests were sent.</summary>
    public int Requests => Volatile.Read(ref _requests);

    /// <summary>Why no more is asked; null as long as more may be.</summary>
    public string? IsOver =>
        stop.IsCancellationRequested
            ? "it was stopped"
            : _refused
                ?? (
                    Requests >= limits.Requests ? $"{limits.Requests:N0} requests were sent"
                    : clock.GetElapsedTime(_started) >= limits.Within ? $"{limits.Within.TotalSeconds:0} s were over"
                    : null
                );

    /// <summary>Waits for the turn of a request, and counts it.</summary>
    public async Task SpendAsync(Uri address, CancellationToken cancellation)
    {
        if (Requests > 0 && limits.Pause > TimeSpan.Zero)
            await Task.Delay(limits.Pause, clock, cancellation);
        Count(address);
    }

    /// <summary>Counts a request that a page made by itself.</summary>
    public void Count(Uri address)
    {
        // A drawn page asks for data while the audit goes on.
        tell(address.PathAndQuery, Interlocked.Increment(ref _requests));
    }

    /// <summary>Waits as long as the application asks to, once; if that is too long, or was not enough, the audit ends.</summary>
    /// <returns>Whether the request may be sent again.</returns>
    public async Task<bool> WaitAsync(TimeSpan asked, bool isSecond, CancellationToken cancellation)
    {
        if (isSecond || asked > LongestWait)
        {
            _refused = "the application limits the rate (429): ask for less at once with --rate, or later";
            return false;
        }

        await Task.Delay(asked, clock, cancellation);
        return true;
    }
}
