using System.Data;
using System.Data.Common;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>
/// One connection to a server, with prepared commands. Each command ends at the time limit, on the server and here, and when the
/// visitor leaves. Only one caller may use it at a time.
/// </summary>
internal sealed class ServerConnection : IAsyncDisposable
{
    private const int MaxCommands = 500;

    /// <summary>The server's own limit comes first. This one is for a server that does not answer at all.</summary>
    private static readonly TimeSpan Grace = TimeSpan.FromMilliseconds(300);

    private readonly Dictionary<string, DbCommand> _commands = new(SameStatement.Comparer);
    private readonly SqlServer _server;
    private readonly DbConnection _connection;
    private readonly CommandWait _wait;
    private Task _work = Task.CompletedTask;
    private ServerPool.Lease? _lease;

    public ServerConnection(SqlServer server, DbConnection connection, int generation)
    {
        (_server, _connection, Generation) = (server, connection, generation);
        _wait = new CommandWait(server.Settings.TimeLimit + Grace, server.Settings.Clock, TooSlow, Rest);
    }

    /// <summary>Which of the pool's generations it belongs to.</summary>
    public int Generation { get; }

    /// <summary>When it was last returned, in the clock's milliseconds.</summary>
    public long IdleSince { get; set; }

    /// <summary>Whether it met an error after which it should be opened again.</summary>
    public bool IsBroken { get; private set; }

    /// <summary>Whether a visitor who left, or the time limit, abandoned it. This says nothing about other connections.</summary>
    public bool IsAbandoned => _wait.IsAbandoned;

    /// <summary>Whether it only reads.</summary>
    public bool OnlyReads { get; init; }

    public DbConnection Inner => _connection;

    /// <summary>Marks it as not to be used again.</summary>
    public void GiveUp() => IsBroken = true;

    /// <summary>
    /// Runs a query and appends its rows. Every visit uses it, so it has as few steps as possible between the page and the
    /// driver.
    /// </summary>
    /// <param name="lease">Returned when the query is done or abandoned; null if the caller keeps the connection.</param>
    public ValueTask RunAsync(
        SqlStatement statement,
        IReadOnlyList<TypedValue> arguments,
        CellReading[] readings,
        RowBlock into,
        ServerPool.Lease? lease,
        CancellationToken cancellation
    )
    {
        if (cancellation.IsCancellationRequested)
        {
            lease?.GiveBack();
            return ValueTask.FromCanceled(cancellation);
        }

        _lease = lease;
        var waiting = _wait.BeginAsync(cancellation);
        _work = ReadAsync(statement, arguments, readings, into, cancellation);
        return waiting;
    }

    private async Task ReadAsync(
        SqlStatement statement,
        IReadOnlyList<TypedValue> arguments,
        CellReading[] readings,
        RowBlock into,
        CancellationToken cancellation
    )
    {
        var (text, used) = statement;
        Exception? error = null;
        try
        {
            for (var again = false; ; again = true)
            {
                if (!_commands.TryGetValue(text, out var command))
                    command = await CommandAsync(text, used.Count, keep: true);
                for (var i = 0; i < used.Count; i++)
                    _server.Bind(command.Parameters[i], arguments[used[i]]);
                try
                {
                    var executing = ExecuteAsync(command);
                    await executing;
                    await using var reader = _server.ReaderOf(executing);
                    while (await reader.ReadAsync(CancellationToken.None) && TryAddRow(reader, readings, into)) { }

                    break;
                }
                catch (DbException stale) when (!again && _server.IsStale(stale))
                {
                    await ForgetAsync(text);
                }
            }
        }
        catch (Exception met)
        {
            error = Told(met, reads: true, cancellation);
        }

        _wait.End(error);
    }

    /// <summary>
    /// Runs a statement that changes something. Returns the number of changed rows and the values of its last row, if it returns
    /// one.
    /// </summary>
    public ValueTask<(int Changed, object?[]? Row)> ExecuteAsync(
        string text,
        IReadOnlyList<TypedValue> values,
        CancellationToken cancellation
    ) =>
        DoAsync<(int Changed, object?[]? Row)>(
            text,
            values,
            async command =>
            {
                var executing = ExecuteAsync(command);
                await executing;
                await using var reader = _server.ReaderOf(executing);
                object?[]? row = null;
                var rows = 0;
                while (await reader.ReadAsync(CancellationToken.None))
                {
                    rows++;
                    row = new object?[reader.FieldCount];
                    for (var i = 0; i < row.Length; i++)
                        row[i] = reader.IsDBNull(i) ? null : reader.GetValue(i);
                }

                await reader.NextResultAsync(CancellationToken.None);
                await reader.CloseAsync();
                return (reader.RecordsAffected < 0 ? rows : Math.Max(rows, reader.RecordsAffected), row);
            },
            cancellation
        );

    /// <summary>Runs a query of the describer once: every column of every row as text or null.</summary>
    public ValueTask<List<string?[]>> AskAsync(string text, CancellationToken cancellation) => AskAsync(text, [], cancellation);

    /// <inheritdoc cref="AskAsync(string, CancellationToken)"/>
    public ValueTask<List<string?[]>> AskAsync(string text, IReadOnlyList<TypedValue> values, CancellationToken cancellation) =>
        DoAsync(
            text,
            values,
            async command =>
            {
                var executing = ExecuteAsync(command);
                await executing;
                await using var reader = _server.ReaderOf(executing);
                var rows = new List<string?[]>();
                while (await reader.ReadAsync(CancellationToken.None))
                {
                    var row = new string?[reader.FieldCount];
                    for (var i = 0; i < row.Length; i++)
                        row[i] = reader.IsDBNull(i)
                            ? null
                            : Convert.ToString(reader.GetValue(i), System.Globalization.CultureInfo.InvariantCulture);
                    rows.Add(row);
                }

                return rows;
            },
            cancellation,
            keep: false
        );

    /// <summary>Uses the connection under the time limit, and translates errors.</summary>
    public async ValueTask<T> DoAsync<T>(Func<Task<T>> work, CancellationToken cancellation)
    {
        cancellation.ThrowIfCancellationRequested();
        var waiting = _wait.BeginAsync(cancellation);
        var doing = work();
        _work = EndAsync(doing, cancellation);
        await waiting;
        return await doing;
    }

    private async Task EndAsync(Task doing, CancellationToken cancellation)
    {
        Exception? error = null;
        try
        {
            await doing;
        }
        catch (Exception met)
        {
            error = Told(met, reads: false, cancellation);
        }

        _wait.End(error);
    }

    /// <summary>The exception for the caller.</summary>
    /// <param name="reads">
    /// Whether the command only reads. Then no rule can be violated: a value in the data, or the query itself, is at fault.
    /// </param>
    private Exception Told(Exception met, bool reads, CancellationToken cancellation)
    {
        if (met is DbException error)
        {
            if (cancellation.IsCancellationRequested)
                return new OperationCanceledException(cancellation);
            if (_wait.IsLate)
            {
                IsBroken = true;
                return TooSlow();
            }

            return _server.Translate(error) is var told && reads && told is RefusedException refused
                ? new SourceException(SourceTrouble.Failed, refused.Message, refused)
                : told;
        }

        if (
            met
            is not (
                IOException
                or ObjectDisposedException
                or InvalidOperationException
                or TimeoutException
                or System.Net.Sockets.SocketException
            )
        )
            return met;
        IsBroken = true;
        return new SourceException(SourceTrouble.Away, $"The connection to {_server.Settings.ShownAs} was lost.", met);
    }

    /// <summary>The caller has the result.</summary>
    private void Rest()
    {
        IsBroken |= IsAbandoned || _connection.State != ConnectionState.Open;
        var lease = _lease;
        _lease = null;
        lease?.GiveBack();
    }

    public async ValueTask DisposeAsync()
    {
        _wait.Dispose();
        if (IsAbandoned)
        {
            // Nobody waits for it any more.
            _ = _server.AbandonAsync(_connection, _work);
            return;
        }

        foreach (var command in _commands.Values)
            command.Dispose();
        _commands.Clear();
        try
        {
            await _connection.DisposeAsync();
        }
        catch (DbException)
        {
            // A lost connection cannot be closed properly.
        }
    }

    private Task ExecuteAsync(DbCommand command) => _server.ExecuteAsync(command, OnlyReads);

    /// <summary>Adds a row to the caller's block; false if the caller has gone, and the block belongs to somebody else.</summary>
    private bool TryAddRow(DbDataReader reader, CellReading[] readings, RowBlock into)
    {
        lock (_wait.Gate)
        {
            if (IsAbandoned)
                return false;
            into.BeginRow();
            for (var i = 0; i < readings.Length; i++)
            {
                if (reader.IsDBNull(i))
                    into.AddNull();
                else
                    _server.Read(reader, i, readings[i], into);
            }

            return true;
        }
    }

    private SourceException TooSlow() =>
        new(
            SourceTrouble.TooSlow,
            $"{_server.Product} did not answer within its time limit of {_server.Settings.TimeLimit.TotalSeconds:0.#} s."
        );

    private ValueTask<T> DoAsync<T>(
        string text,
        IReadOnlyList<TypedValue> values,
        Func<DbCommand, Task<T>> work,
        CancellationToken cancellation,
        bool keep = true
    ) =>
        DoAsync(
            async () =>
            {
                for (var again = false; ; again = true)
                {
                    var command = await CommandAsync(text, values.Count, keep);
                    for (var i = 0; i < values.Count; i++)
                        _server.Bind(command.Parameters[i], values[i]);
                    try
                    {
                        return await work(command);
                    }
                    catch (DbException stale) when (!again && _server.IsStale(stale))
                    {
                        await ForgetAsync(text);
                    }
                    finally
                    {
                        if (!keep)
                            await command.DisposeAsync();
                    }
                }
            },
            cancellation
        );

    private async ValueTask<DbCommand> CommandAsync(string text, int parameters, bool keep)
    {
        if (_commands.TryGetValue(text, out var kept))
            return kept;
        var command = _connection.CreateCommand();
        command.CommandText = text;
        command.CommandTimeout = 0;
        for (var i = 0; i < parameters; i++)
            command.Parameters.Add(_server.Parameter(i));
        if (!keep)
            return command;
        if (_commands.Count >= MaxCommands)
        {
            foreach (var old in _commands.Values)
                await old.DisposeAsync();
            _commands.Clear();
        }

        try
        {
            if (_server.Prepares)
                await command.PrepareAsync(CancellationToken.None);
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
        if (!_commands.Remove(text, out var old))
            return;
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
