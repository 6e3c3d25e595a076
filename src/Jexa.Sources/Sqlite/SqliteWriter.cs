using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The one connection of this process that changes a file. SQLite lets one transaction change a file at a time, and waiting here
/// costs less than asking the file again and again. A rollback journal is emptied instead of removed while changes follow one
/// another, because removing it costs more than all else.
/// </summary>
internal sealed class SqliteWriter : IDisposable
{
    /// <summary>An emptied journal is removed after this time without changes, because readers check it each time.</summary>
    private static readonly TimeSpan JournalKept = TimeSpan.FromSeconds(1);

    private readonly SqlitePool _pool;
    private readonly SourceSettings _settings;
    private readonly SemaphoreSlim _turn = new(1);
    private readonly ITimer _tidying;
    private SqliteReader? _connection;
    private bool _hasNotes;
    private bool _removesJournal;
    private bool _keepsJournal;
    private bool _disposed;

    public SqliteWriter(SqlitePool pool, SourceSettings settings)
    {
        _pool = pool;
        _settings = settings;
        _tidying = settings.Clock.CreateTimer(_ => Tidy(), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan);
        pool.Outdated = RetireAsync;
    }

    public async ValueTask<IWriteSession> BeginAsync(CancellationToken cancellation)
    {
        if (_settings.Writing == SourceWriting.Refused)
            throw new SourceException(SourceTrouble.Failed, "Nothing is to be written to this source.");
        if (!await _turn.WaitAsync(_settings.TimeLimit, _settings.Clock, cancellation))
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"Other changes of {_settings.ShownAs} took more than {_settings.TimeLimit.TotalSeconds:0} s."
            );
        try
        {
            LeaveOutdated();
            if (_connection is null)
                Open(cancellation);
            if (_removesJournal && !_keepsJournal)
                KeepJournal(_connection!, cancellation);
            _connection!.Execute("BEGIN IMMEDIATE", [], cancellation);
            return new Session(this, _connection);
        }
        catch
        {
            _turn.Release();
            throw;
        }
    }

    public void Dispose()
    {
        _disposed = true;
        _tidying.Dispose();
        if (_turn.Wait(JournalKept))
            RemoveJournal();
        Drop();
    }

    private void Open(CancellationToken cancellation)
    {
        var opened = _pool.OpenForWriting();
        try
        {
            _removesJournal = JournalMode(opened, cancellation) == "delete";
        }
        catch
        {
            _pool.CloseForWriting(opened);
            throw;
        }

        (_connection, _hasNotes, _keepsJournal) = (opened, false, false);
    }

    /// <summary>The journal mode of the file now: another program may have changed it, which only a read shows.</summary>
    private static string? JournalMode(SqliteReader connection, CancellationToken cancellation)
    {
        connection.Execute("SELECT count(*) FROM sqlite_schema", [], cancellation);
        return connection.Execute("PRAGMA journal_mode", [], cancellation).Returned is [TypedValue.Text mode] ? mode.Value : null;
    }

    private void KeepJournal(SqliteReader connection, CancellationToken cancellation)
    {
        if (JournalMode(connection, cancellation) != "delete")
        {
            _removesJournal = false;
            return;
        }

        connection.Execute("PRAGMA journal_mode = PERSIST", [], cancellation);
        connection.Execute("PRAGMA journal_size_limit = 1048576", [], cancellation);
        _keepsJournal = true;
    }

    private void Tidy()
    {
        if (_disposed || !_turn.Wait(0))
            return;
        try
        {
            RemoveJournal();
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>Not if another file was put in this one's place: its journal is not ours.</summary>
    private void RemoveJournal()
    {
        if (!_keepsJournal || _connection is not { IsBroken: false } connection || !_pool.IsCurrent(connection))
            return;
        try
        {
            // If somebody made the file keep a log meanwhile, that is respected.
            if (JournalMode(connection, CancellationToken.None) == "persist")
                connection.Execute("PRAGMA journal_mode = DELETE", [], CancellationToken.None);
            _keepsJournal = false;
        }
        catch (SourceException)
        {
            // Somebody else is changing the file. The empty journal does no harm.
        }
    }

    /// <summary>Closes the connection after other programs replaced or removed the file or its write-ahead log.</summary>
    private async Task RetireAsync()
    {
        await _turn.WaitAsync();
        try
        {
            if (!_disposed)
                LeaveOutdated();
        }
        finally
        {
            _turn.Release();
        }
    }

    private void LeaveOutdated()
    {
        if (_connection is not { } connection)
            return;
        try
        {
            if (_pool.IsCurrent(connection))
            {
                if (connection.IsBroken)
                    Drop();
                return;
            }

            if (_pool.MayKeepLog && !connection.IsBroken)
                connection.Execute("PRAGMA wal_checkpoint(TRUNCATE)", [], CancellationToken.None);
            else
                connection.LeaveLog();
        }
        catch (SourceException)
        {
            // What could not be written stays in the log.
        }

        Drop();
    }

    private void Drop()
    {
        if (_connection is { } connection)
            _pool.CloseForWriting(connection);
        _connection = null;
    }

    private void EndTurn()
    {
        if (_keepsJournal && !_disposed)
            _tidying.Change(JournalKept, Timeout.InfiniteTimeSpan);
        _turn.Release();
    }

    private sealed class Session(SqliteWriter writer, SqliteReader connection) : IWriteSession
    {
        private bool _madeNotes;
        private bool _ended;

        public bool KeepsNotes => writer._settings.Writing == SourceWriting.Noted;

        /// <summary>The session has the whole file locked.</summary>
        public ValueTask ClaimAsync(string token, CancellationToken cancellation) => ValueTask.CompletedTask;

        public ValueTask LockAsync(
            IPreparedQuery query,
            IReadOnlyList<TypedValue> arguments,
            RowBlock into,
            CancellationToken cancellation
        ) => RunAsync(query, arguments, into, cancellation);

        public ValueTask RunAsync(
            IPreparedQuery query,
            IReadOnlyList<TypedValue> arguments,
            RowBlock into,
            CancellationToken cancellation
        )
        {
            ((SqliteQuery)query).Run(connection, arguments, into, cancellation);
            return ValueTask.CompletedTask;
        }

        public ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation)
        {
            var (changed, returned) = connection.Execute(
                new SqliteText().Write(write).Text,
                SqliteText.Arguments(write),
                cancellation
            );
            return ValueTask.FromResult(new WriteResult(changed, returned ?? []));
        }

        public string Shown(RecordWrite write) =>
            new SqliteText { Shown = [] }
                .Write(write)
                .Text + ";";

        public ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            var (changed, _) = connection.Execute(
                "INSERT OR IGNORE INTO jexa_commit (token, key) VALUES (?1, ?2)",
                [new TypedValue.Text(token), key is null ? TypedValue.Empty.Value : new TypedValue.Text(key)],
                cancellation
            );
            return ValueTask.FromResult(changed == 1);
        }

        public ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            var (_, returned) = connection.Execute(
                "SELECT key FROM jexa_commit WHERE token = ?1",
                [new TypedValue.Text(token)],
                cancellation
            );
            return ValueTask.FromResult((returned is not null, (returned?[0] as TypedValue.Text)?.Value));
        }

        public ValueTask<string?> NextStrayNoteAsync(string after, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            var (_, returned) = connection.Execute(
                "SELECT min(token) FROM jexa_commit WHERE key IS NULL AND token > ?1",
                [new TypedValue.Text(after)],
                cancellation
            );
            return ValueTask.FromResult((returned?[0] as TypedValue.Text)?.Value);
        }

        public ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            foreach (var token in tokens)
                connection.Execute("DELETE FROM jexa_commit WHERE token = ?1", [new TypedValue.Text(token)], cancellation);
            return ValueTask.CompletedTask;
        }

        public ValueTask CommitAsync()
        {
            connection.Execute("COMMIT", [], CancellationToken.None);
            if (!writer._pool.IsCurrent(connection))
            {
                throw new SourceException(
                    SourceTrouble.Away,
                    $"Another program replaced {writer._settings.ShownAs} or its write-ahead log: whether the change "
                        + "is in it is not certain."
                );
            }

            writer._hasNotes |= _madeNotes;
            return ValueTask.CompletedTask;
        }

        public ValueTask DisposeAsync()
        {
            if (_ended)
                return ValueTask.CompletedTask;
            _ended = true;
            try
            {
                if (connection.IsInTransaction)
                    connection.Execute("ROLLBACK", [], CancellationToken.None);
            }
            catch (SourceException)
            {
                // If even a rollback fails, the connection is not used again. Closing it rolls back.
                writer.Drop();
            }
            finally
            {
                writer.EndTurn();
            }

            return ValueTask.CompletedTask;
        }

        /// <summary>Our own table, created by the first change of a file.</summary>
        private void MakeNotes(CancellationToken cancellation)
        {
            if (writer._hasNotes || _madeNotes)
                return;
            connection.Execute(
                "CREATE TABLE IF NOT EXISTS jexa_commit (token TEXT NOT NULL PRIMARY KEY, key TEXT) WITHOUT ROWID",
                [],
                cancellation
            );
            _madeNotes = true;
        }
    }
}
