using Jexa.Core.Sources;

namespace Jexa.Sources.Sql;

/// <summary>
/// A limited number of connections to one server, opened when needed, each with prepared commands. A source that does not answer
/// blocks at most that many callers, each until the time limit.
/// </summary>
internal sealed class ServerPool(SqlServer server, ServerUse use, int most) : IAsyncDisposable
{
    private const long IdleBeforeLook = 30_000;

    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(10);

    /// <summary>The connection used last is used next. It is its own lock.</summary>
    private readonly Stack<ServerConnection> _idle = new(most);
    private readonly SemaphoreSlim _places = new(most, most);
    private volatile int _generation;
    private volatile bool _disposed;
    private int _open;

    /// <summary>A connection for one caller at a time. Dispose the lease to return it.</summary>
    /// <exception cref="SourceException">The server is not there, or all connections stayed busy.</exception>
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
        if (!await _places.WaitAsync(server.Settings.TimeLimit, server.Settings.Clock, cancellation))
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"Every connection to {server.Settings.ShownAs} stayed busy for {server.Settings.TimeLimit.TotalSeconds:0} s."
            );
        return await RentAsync(null, cancellation);
    }

    /// <summary>A connection for a caller who has a place already.</summary>
    /// <param name="idle">A connection taken from the idle ones.</param>
    private async ValueTask<Lease> RentAsync(ServerConnection? idle, CancellationToken cancellation)
    {
        try
        {
            var began = server.Settings.Clock.Milliseconds();
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
                // The server has no more connections, but somebody will return one of ours in a moment.
                await Task.Delay(Look, server.Settings.Clock, cancellation);
            }
        }
        catch
        {
            _places.Release();
            throw;
        }
    }

    /// <summary>Closes every connection at its next use: the server was away, or was set up again.</summary>
    public void Renew() => Interlocked.Increment(ref _generation);

    public async ValueTask DisposeAsync()
    {
        _disposed = true;
        while (Pop() is { } idle)
            await CloseAsync(idle);
    }

    /// <summary>Takes an idle connection; null for none.</summary>
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

    /// <summary>A new connection; null if the server has no more, but another one of this pool can be waited for.</summary>
    /// <param name="began">When the caller began to wait.</param>
    private async ValueTask<ServerConnection?> OpenAsync(long began, CancellationToken cancellation)
    {
        using var limit = new LimitedWait(server.Settings.TimeLimit, server.Settings.Clock, cancellation);
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
                && server.Settings.Clock.Milliseconds() - began < server.Settings.TimeLimit.TotalMilliseconds
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

    private bool WasUsedLately(ServerConnection connection) =>
        server.Settings.Clock.Milliseconds() - connection.IdleSince < IdleBeforeLook;

    /// <summary>Whether a connection that was idle for long is still open on the server.</summary>
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
        connection.IdleSince = server.Settings.Clock.Milliseconds();
        lock (_idle)
            _idle.Push(connection);
        _places.Release();
        return Task.CompletedTask;
    }

    /// <summary>Takes back a connection that must not be used again.</summary>
    private async Task ReturnSpentAsync(ServerConnection connection)
    {
        try
        {
            // What broke one connection usually broke those beside it.
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

        /// <summary>Returns a connection. If it must not be used again, it is closed in the background.</summary>
        public void GiveBack() => _ = pool.ReturnAsync(Connection);

        public ValueTask DisposeAsync() => new(pool.ReturnAsync(Connection));
    }
}
