using System.Data;
using System.Data.Common;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>
/// One connection to a server, with its commands kept prepared. Each command ends at the time limit, on the server and here, and when
/// the visitor leaves. Used by one caller at a time.
/// </summary>
internal sealed class ServerConnection(SqlServer server, DbConnection connection, int generation) : IAsyncDisposable
{
    private const int MaxCommands = 500;

    private readonly Dictionary<string, DbCommand> _commands = [];
    private readonly Lock _adding = new();
    private bool _isAbandoned;
    private Task _work = Task.CompletedTask;
    private CancellationTokenSource _limit = new();

    /// <summary>Which of the pool's generations it belongs to.</summary>
    public int Generation { get; } = generation;

    /// <summary>When it was last given back, in the clock's milliseconds.</summary>
    public long IdleSince { get; set; }

    /// <summary>Whether it met an error after which it is better opened anew.</summary>
    public bool IsBroken { get; private set; }

    /// <summary>Whether it was left to itself, by a visitor who went or by the time limit: that says nothing of other connections.</summary>
    public bool IsAbandoned => _isAbandoned;

    /// <summary>Whether nothing is ever changed through it.</summary>
    public bool OnlyReads { get; init; }

    public DbConnection Inner => connection;

    /// <summary>Says that it is not to be used again.</summary>
    public void GiveUp() => IsBroken = true;

    /// <summary>Runs a query and appends its rows.</summary>
    /// <param name="lease">Given back when it is done; null where the caller goes on with the connection.</param>
    public ValueTask RunAsync(
        string text, IReadOnlyList<int> used, IReadOnlyList<Constant> arguments, CellReading[] readings, RowBlock into, ServerPool.Lease? lease, CancellationToken cancellation) =>
        WatchAsync(ReadAsync(text, used, arguments, readings, into), reads: true, lease, cancellation);

    /// <summary>The way of every visit: as few steps as there can be between the page and the driver.</summary>
    private async Task ReadAsync(string text, IReadOnlyList<int> used, IReadOnlyList<Constant> arguments, CellReading[] readings, RowBlock into)
    {
        for (var again = false; ; again = true)
        {
            if (!_commands.TryGetValue(text, out var command)) command = await CommandAsync(text, used.Count, keep: true);
            for (var i = 0; i < used.Count; i++) server.Bind(command.Parameters[i], arguments[used[i]]);
            try
            {
                await using var reader = await ReaderAsync(command);
                while (await reader.ReadAsync(CancellationToken.None) && TryAddRow(reader, readings, into))
                {
                }

                return;
            }
            catch (DbException stale) when (!again && server.IsStale(stale))
            {
                await ForgetAsync(text);
            }
        }
    }

    /// <summary>Runs a statement that changes something. Gives how many rows it changed and what the last of its rows, if any, holds.</summary>
    public ValueTask<(int Changed, object?[]? Row)> ExecuteAsync(string text, IReadOnlyList<Constant> values, CancellationToken cancellation) =>
        DoAsync<(int Changed, object?[]? Row)>(text, values, async command =>
        {
            await using var reader = await ReaderAsync(command);
            object?[]? row = null;
            var rows = 0;
            while (await reader.ReadAsync(CancellationToken.None))
            {
                rows++;
                row = new object?[reader.FieldCount];
                for (var i = 0; i < row.Length; i++) row[i] = reader.IsDBNull(i) ? null : reader.GetValue(i);
            }

            await reader.NextResultAsync(CancellationToken.None);
            await reader.CloseAsync();
            return (reader.RecordsAffected < 0 ? rows : Math.Max(rows, reader.RecordsAffected), row);
        }, cancellation);

    /// <summary>Runs a query of the describer's own, once: every column of every row as text or null.</summary>
    public ValueTask<List<string?[]>> AskAsync(string text, CancellationToken cancellation) => DoAsync(text, [], async command =>
    {
        await using var reader = await ReaderAsync(command);
        var rows = new List<string?[]>();
        while (await reader.ReadAsync(CancellationToken.None))
        {
            var row = new string?[reader.FieldCount];
            for (var i = 0; i < row.Length; i++) row[i] = reader.IsDBNull(i) ? null : Convert.ToString(reader.GetValue(i), System.Globalization.CultureInfo.InvariantCulture);
            rows.Add(row);
        }

        return rows;
    }, cancellation, keep: false);

    /// <summary>Does something with the connection under the time limit, its errors translated.</summary>
    public async ValueTask<T> DoAsync<T>(Func<Task<T>> work, CancellationToken cancellation)
    {
        var doing = work();
        await WatchAsync(doing, reads: false, null, cancellation);
        return await doing;
    }

    /// <summary>Waits for what is done with the connection: until the time limit, or until the visitor leaves.</summary>
    /// <param name="reads">Whoever only reads breaks no rule: what refuses it is a value in the data, or the query itself, that cannot be worked with.</param>
    /// <param name="lease">Given back when it is done, or nobody waits for it any more.</param>
    private async ValueTask WatchAsync(Task doing, bool reads, ServerPool.Lease? lease, CancellationToken cancellation)
    {
        var limit = _limit;
        var leaving = cancellation.CanBeCanceled ? cancellation.UnsafeRegister(static state => ((CancellationTokenSource)state!).Cancel(), limit) : default;
        limit.CancelAfter(server.Settings.TimeLimit + Grace);
        try
        {
            _work = doing;
            await doing.WaitAsync(limit.Token);
        }
        catch (OperationCanceledException) when (limit.IsCancellationRequested)
        {
            Abandon();
            cancellation.ThrowIfCancellationRequested();
            IsBroken = true;
            throw TooSlow();
        }
        catch (DbException error)
        {
            cancellation.ThrowIfCancellationRequested();
            if (limit.IsCancellationRequested)
            {
                IsBroken = true;
                throw TooSlow();
            }

            throw server.Translate(error) is var told && reads && told is RefusedException refused ? new SourceException(SourceTrouble.Failed, refused.Message, refused) : told;
        }
        catch (Exception lost) when (lost is IOException or ObjectDisposedException or InvalidOperationException or TimeoutException or System.Net.Sockets.SocketException)
        {
            IsBroken = true;
            throw new SourceException(SourceTrouble.Away, $"The connection to {server.Settings.ShownAs} was lost.", lost);
        }
        finally
        {
            // A visitor who leaves from here on must not end the command of the next one.
            await leaving.DisposeAsync();
            IsBroken |= connection.State != ConnectionState.Open;
            if (!limit.TryReset())
            {
                limit.Dispose();
                _limit = new CancellationTokenSource();
            }

            if (lease is { } lent) await lent.DisposeAsync();
        }
    }

    public async ValueTask DisposeAsync()
    {
        _limit.Dispose();
        if (_isAbandoned)
        {
            // Nobody waits for what it is still at.
            _ = server.AbandonAsync(connection, _work);
            return;
        }

        foreach (var command in _commands.Values) command.Dispose();
        _commands.Clear();
        try
        {
            await connection.DisposeAsync();
        }
        catch (DbException)
        {
            // A connection that is lost cannot say goodbye.
        }
    }

    private Task<DbDataReader> ReaderAsync(DbCommand command) => OnlyReads ? server.ReadAsync(command, CancellationToken.None) : command.ExecuteReaderAsync(CancellationToken.None);

    /// <summary>Adds a row to the block of whoever waits for it; false where nobody does any more, and the block is another's.</summary>
    private bool TryAddRow(DbDataReader reader, CellReading[] readings, RowBlock into)
    {
        lock (_adding)
        {
            if (_isAbandoned) return false;
            into.BeginRow();
            for (var i = 0; i < readings.Length; i++)
            {
                if (reader.IsDBNull(i)) into.AddNull();
                else server.Read(reader, i, readings[i], into);
            }

            return true;
        }
    }

    /// <summary>Leaves a command to itself that cannot be stopped from here: from now on it touches nothing of ours.</summary>
    private void Abandon()
    {
        lock (_adding) _isAbandoned = true;
        IsBroken = true;
    }

    /// <summary>The server's own limit comes first; this one is for a server that does not answer at all.</summary>
    private static TimeSpan Grace { get; } = TimeSpan.FromMilliseconds(300);

    private SourceException TooSlow() =>
        new(SourceTrouble.TooSlow, $"{server.Product} did not answer within its time limit of {server.Settings.TimeLimit.TotalSeconds:0.#} s.");

    private ValueTask<T> DoAsync<T>(string text, IReadOnlyList<Constant> values, Func<DbCommand, Task<T>> work, CancellationToken cancellation, bool keep = true) =>
        DoAsync(async () =>
        {
            for (var again = false; ; again = true)
            {
                var command = await CommandAsync(text, values.Count, keep);
                for (var i = 0; i < values.Count; i++) server.Bind(command.Parameters[i], values[i]);
                try
                {
                    return await work(command);
                }
                catch (DbException stale) when (!again && server.IsStale(stale))
                {
                    await ForgetAsync(text);
                }
                finally
                {
                    if (!keep) await command.DisposeAsync();
                }
            }
        }, cancellation);

    private async ValueTask<DbCommand> CommandAsync(string text, int parameters, bool keep)
    {
        if (_commands.TryGetValue(text, out var kept)) return kept;
        var command = connection.CreateCommand();
        command.CommandText = text;
        command.CommandTimeout = 0;
        for (var i = 0; i < parameters; i++) command.Parameters.Add(server.Parameter(i));
        if (!keep) return command;
        if (_commands.Count >= MaxCommands)
        {
            foreach (var old in _commands.Values) await old.DisposeAsync();
            _commands.Clear();
        }

        try
        {
            if (server.Prepares) await command.PrepareAsync(CancellationToken.None);
        }
        catch
        {
            await command.DisposeAsync();
            throw;
        }

        return _commands[text] = command;
    }

    private async ValueTask ForgetAsync(string text)
    {
        if (!_commands.Remove(text, out var old)) return;
        try
        {
            await old.DisposeAsync();
        }
        catch (DbException)
        {
            // It is gone on the server already.
        }
    }
}
