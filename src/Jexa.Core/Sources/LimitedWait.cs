namespace Jexa.Core.Sources;

/// <summary>A wait that ends if its caller has left, or after some time on a given clock.</summary>
public sealed class LimitedWait : IDisposable
{
    private readonly CancellationTokenSource _time;
    private readonly CancellationTokenSource _both;

    /// <summary>Begins the wait.</summary>
    /// <param name="limit">How long it may take.</param>
    /// <param name="caller">Cancelled if the caller has left.</param>
    public LimitedWait(TimeSpan limit, TimeProvider clock, CancellationToken caller)
    {
        _time = new CancellationTokenSource(limit, clock);
        _both = CancellationTokenSource.CreateLinkedTokenSource(caller, _time.Token);
    }

    /// <summary>Cancelled when the wait has ended.</summary>
    public CancellationToken Token => _both.Token;

    /// <inheritdoc/>
    public void Dispose()
    {
        _both.Dispose();
        _time.Dispose();
    }
}
