using Jexa.Core.Sources;

namespace Jexa.Sources.Sql;

/// <summary>
/// A bounded number of connections to one server, opened when first needed, each with its commands kept prepared. A source that
/// does not answer can hold no more callers than these, and each no longer than the time limit.
/// </summary>
internal sealed class ServerPool(SqlServer server, ServerUse use, int most) : IAsyncDisposable
{
    private const long IdleBeforeLook = 30_000;

    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(10);

    /// <summary>The one used last is used next, while it is at hand; it is its own lock.</summary>
    private readonly Stack<ServerConnection> _idle = new(most);
    private readonly SemaphoreSlim _places = new(most, most);
    private volatile int _generation;
    private volatile bool _disposed;
    private int _open;

    /// <summary>A connection for one caller at a time; dispose the lease to give it back.</summary>
    /// <exception cref="SourceException">The server is not there, or every connection stayed busy.</exception>
    public ValueTask<Lease> RentAsync(CancellationToken cancellation)
    {
        ObjectDisposedException.ThrowIf(_disposed, this);
        if (!_places.Wait(0, CancellationToken.None))
            return WaitAndRentAsync(cancellation);
        if (Pop() is not { } idle)
            return RentAsync(null, cancellation);
        return idle.Generation == _generation && WasUsedLately(idle)
            ? new ValueTask<Lease>(new Lease(this, idle))
            : RentAsync(idle, cancellation);
    }

    private async ValueTask<Lease> WaitAndRentAsync(CancellationToken cancellation)
    {
        if (!await _places.WaitAsync(server.Settings.TimeLimit, cancellation))
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"Every connection to {server.Settings.ShownAs} stayed busy for {server.Settings.TimeLimit.TotalSeconds:0} s."
            );
        return await RentAsync(null, cancellation);
    }

    /// <summary>A connection for a caller who has a place already.</summary>
    /// <param name="idle">One that has been taken from the idle ones.</param>
    private async ValueTask<Lease> RentAsync(ServerConnection? idle, CancellationToken cancellation)
    {
        try
        {
            var began = Environment.TickCount64;
            while (true)
            {
                for (var at = idle ?? Pop(); at is not null; at = Pop())
                {
                    if (at.Generation == _generation && (WasUsedLately(at) || await StillThereAsync(at)))
                        return new Lease(this, at);
                    await CloseAsync(at);
                }

                idle = null;
                if (await OpenAsync(began, cancellation) is { } opened)
                    return new Lease(this, opened);
                // The server takes no more connections than it has: whoever has one of ours gives it back in a moment.
                await Task.Delay(Look, cancellation);
            }
        }
        catch
        {
            _places.Release();
            throw;
        }
    }

    /// <summary>Closes every connection at its next use: the server was away, or has been set up anew.</summary>
    public void Renew() => Interlocked.Increment(ref _generation);

    public async ValueTask DisposeAsync()
    {
        _disposed = true;
        while (Pop() is { } idle)
            await CloseAsync(idle);
    }

    /// <summary>An idle connection, the caller's from now on; null if there is none.</summary>
    private ServerConnection? Pop()
    {
        lock (_idle)
            return _idle.TryPop(out var idle) ? idle : null;
    }

    private ValueTask CloseAsync(ServerConnection connection)
    {
        Interlocked.Decrement(ref _open);
        return connection.DisposeAsync();
    }

    /// <summary>A new connection; null if the server has no room for it, but others of this pool can be waited for.</summary>
    /// <param name="began">Since when the caller waits.</param>
    private async ValueTask<ServerConnection?> OpenAsync(long began, CancellationToken cancellation)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        limit.CancelAfter(server.Settings.TimeLimit);
        var generation = _generation;
        try
        {
            var opened = new ServerConnection(server, await server.OpenAsync(use, limit.Token), generation)
            {
                OnlyReads = use != ServerUse.Changing,
            };
            Interlocked.Increment(ref _open);
            return opened;
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            throw new SourceException(
                SourceTrouble.Away,
                $"{server.Product} did not take a connection within {server.Settings.TimeLimit.TotalSeconds:0.#} s."
            );
        }
        catch (System.Data.Common.DbException refused)
        {
            cancellation.ThrowIfCancellationRequested();
            if (
                server.IsFull(refused)
                && Volatile.Read(ref _open) > 0
                && Environment.TickCount64 - began < server.Settings.TimeLimit.TotalMilliseconds
            )
                return null;
            throw server.Translate(refused) is SourceException told
                ? new SourceException(
                    told.Trouble == SourceTrouble.TooSlow ? SourceTrouble.TooSlow : SourceTrouble.Away,
                    told.Message,
                    refused
                )
                {
                    IsSettled = told.IsSettled,
                }
                : new SourceException(SourceTrouble.Away, $"{server.Product} refuses the connection.", refused);
        }
        catch (Exception lost)
            when (lost is IOException or System.Net.Sockets.SocketException or TimeoutException or InvalidOperationException)
        {
            throw new SourceException(SourceTrouble.Away, $"{server.Product} cannot be reached.", lost);
        }
    }

    private static bool WasUsedLately(ServerConnection connection) =>
        Environment.TickCount64 - connection.IdleSince < IdleBeforeLook;

    /// <summary>Whether a connection that nobody used for long still has a server at its other end.</summary>
    private static async ValueTask<bool> StillThereAsync(ServerConnection connection)
    {
        try
        {
            await connection.AskAsync("SELECT 1", CancellationToken.None);
            return true;
        }
        catch (SourceException)
        {
            return false;
        }
    }

    private Task ReturnAsync(ServerConnection connection)
    {
        if (connection.IsBroken || _disposed || connection.Generation != _generation)
            return ReturnSpentAsync(connection);
        connection.IdleSince = Environment.TickCount64;
        lock (_idle)
            _idle.Push(connection);
        _places.Release();
        return Task.CompletedTask;
    }

    /// <summary>Takes one back that is not to be used again.</summary>
    private async Task ReturnSpentAsync(ServerConnection connection)
    {
        try
        {
            // What broke one connection broke those beside it more often than not.
            if (connection.IsBroken && !connection.IsAbandoned)
                Renew();
            await CloseAsync(connection);
        }
        finally
        {
            if (!_disposed)
                _places.Release();
        }
    }

    public readonly struct Lease(ServerPool pool, ServerConnection connection) : IAsyncDisposable
    {
        public ServerConnection Connection { get; } = connection;

        /// <summary>Gives it back; where it is not to be used again, without waiting until it is closed.</summary>
        public void GiveBack() => _ = pool.ReturnAsync(Connection);

        public ValueTask DisposeAsync() => new(pool.ReturnAsync(Connection));
    }
}
