using System.Diagnostics.CodeAnalysis;
using System.Net;

namespace Jexa.Core.Serving;

/// <summary>One page's share of its source's connections: see <see cref="SourceShare"/>.</summary>
[SuppressMessage(
    "Reliability",
    "CA1001",
    Justification = "A semaphore whose wait handle is never asked for holds nothing to dispose."
)]
internal sealed class PageShare(SourceShare source, TimeProvider clock)
{
    private static readonly TimeSpan Slow = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan SlowFor = TimeSpan.FromMinutes(1);

    /// <summary>A page is slow after this number of slow visits in a row. One slow visit may come from a busy machine.</summary>
    private const int SlowInRow = 3;

    private readonly SemaphoreSlim _places = new(source.MostOfOnePage, source.MostOfOnePage);
    private long _slowAt = long.MinValue;
    private int _inRow;

    private bool IsSlow => Volatile.Read(ref _slowAt) is var at && at != long.MinValue && clock.GetElapsedTime(at) < SlowFor;

    /// <summary>Waits for the visit's turn. Disposing the turn ends it.</summary>
    public ValueTask<PageTurn> EnterAsync(IPAddress? client, CancellationToken cancellation) =>
        !IsSlow && _places.Wait(0, CancellationToken.None)
            ? new ValueTask<PageTurn>(Begin(false, client))
            : WaitAsync(client, cancellation);

    /// <param name="isSlow">The visit counts as one of a slow page.</param>
    private PageTurn Begin(bool isSlow, IPAddress? client) => new(this, isSlow, client, clock.GetTimestamp());

    internal void Leave(bool isSlow, IPAddress? client, long began)
    {
        _places.Release();
        if (isSlow)
            source.LeaveSlow(client);
        if (clock.GetElapsedTime(began) < Slow)
            Volatile.Write(ref _inRow, 0);
        else if (Interlocked.Increment(ref _inRow) >= SlowInRow)
            Volatile.Write(ref _slowAt, clock.GetTimestamp());
    }

    private async ValueTask<PageTurn> WaitAsync(IPAddress? client, CancellationToken cancellation)
    {
        await source.WaitAsync(_places, cancellation);
        try
        {
            // The visit it waited for may have shown that the page is slow.
            if (!IsSlow)
                return Begin(false, client);
            await source.EnterSlowAsync(client, cancellation);
            return Begin(true, client);
        }
        catch
        {
            _places.Release();
            throw;
        }
    }
}
