using System.Diagnostics.CodeAnalysis;
using System.Net;
using Jexa.Core.Sources;

namespace Jexa.Core.Serving;

/// <summary>
/// Divides the connections of a source among pages and visitors, so that a few slow visits never block it. <list type="bullet">
/// <item>One page has at most three quarters of the connections at once.</item> <item> A page is slow for a minute after three
/// visits of it in a row took a second or more. All slow pages together have half of the connections, and one client address half
/// of these. The rest is for quick pages. </item> <item>A visit that waited two seconds for its turn is refused. Its visitor can
/// try again.</item> </list>
/// </summary>
[SuppressMessage(
    "Reliability",
    "CA1001",
    Justification = "A semaphore whose wait handle is never asked for holds nothing to dispose."
)]
internal sealed class SourceShare
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    private readonly TimeProvider _clock;
    private readonly SemaphoreSlim _slowPlaces;
    private readonly int _mostOfOneClient;
    private readonly Dictionary<IPAddress, int> _clients = [];

    public SourceShare(ISource source, TimeProvider clock)
    {
        _clock = clock;
        var connections = Math.Max(2, source.Connections);
        MostOfOnePage = Math.Max(1, connections * 3 / 4);
        var slow = Math.Max(1, connections / 2);
        _slowPlaces = new SemaphoreSlim(slow, slow);
        _mostOfOneClient = Math.Max(1, slow / 2);
    }

    /// <summary>The most visits of one page at the same time.</summary>
    public int MostOfOnePage { get; }

    /// <summary>Waits for a turn among slow pages.</summary>
    /// <exception cref="SourceException">It took too long.</exception>
    public async ValueTask EnterSlowAsync(IPAddress? client, CancellationToken cancellation)
    {
        for (var waited = TimeSpan.Zero; !TryCount(client); waited += Pause)
        {
            if (waited >= Patience)
                throw Refusal("this address");
            await Task.Delay(Pause, _clock, cancellation);
        }

        try
        {
            if (!await _slowPlaces.WaitAsync(Patience, _clock, cancellation))
                throw Refusal("slow pages");
        }
        catch
        {
            Uncount(client);
            throw;
        }
    }

    public void LeaveSlow(IPAddress? client)
    {
        _slowPlaces.Release();
        Uncount(client);
    }

    public async ValueTask WaitAsync(SemaphoreSlim places, CancellationToken cancellation)
    {
        if (!await places.WaitAsync(Patience, _clock, cancellation))
            throw Refusal("this page");
    }

    private static TimeSpan Pause { get; } = TimeSpan.FromMilliseconds(20);

    private static SourceException Refusal(string who) =>
        new(
            SourceTrouble.TooSlow,
            $"As many visits as {who} may have of the source's connections stayed busy for {Patience.TotalSeconds:0} s."
        );

    private bool TryCount(IPAddress? client)
    {
        if (client is null)
            return true;
        lock (_clients)
        {
            var count = _clients.GetValueOrDefault(client);
            if (count >= _mostOfOneClient)
                return false;
            _clients[client] = count + 1;
            return true;
        }
    }

    private void Uncount(IPAddress? client)
    {
        if (client is null)
            return;
        lock (_clients)
        {
            if (_clients[client] <= 1)
                _clients.Remove(client);
            else
                _clients[client]--;
        }
    }
}
