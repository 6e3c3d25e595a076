using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The one connection of this process that changes a file. SQLite lets one transaction change a file at a time; waiting for
/// one's own turn here costs less than asking the file again and again.
/// </summary>
internal sealed class SqliteWriter(SqlitePool pool, SourceSettings settings) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1);
    private SqliteReader? _connection;
    private bool _hasNotes;

    public async ValueTask<IWriteSession> BeginAsync(CancellationToken cancellation)
    {
        if (settings.Writing == SourceWriting.Refused) throw new SourceException(SourceTrouble.Failed, "Nothing is to be written to this source.");
        if (!await _turn.WaitAsync(settings.TimeLimit, cancellation))
            throw new SourceException(SourceTrouble.TooSlow, $"Other changes of {settings.ShownAs} took more than {settings.TimeLimit.TotalSeconds:0} s.");
        try
        {
            if (_connection is { } old && (old.IsBroken || old.Generation != pool.Generation)) Drop();
            if (_connection is null) (_connection, _hasNotes) = (pool.OpenForWriting(), false);
            _connection.Execute("BEGIN IMMEDIATE", [], cancellation);
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
        Drop();
        _turn.Dispose();
    }

    private void Drop()
    {
        _connection?.Dispose();
        _connection = null;
    }

    private sealed class Session(SqliteWriter writer, SqliteReader connection) : IWriteSession
    {
        private bool _madeNotes;
        private bool _ended;

        public bool KeepsNotes => writer.Settings.Writing == SourceWriting.Noted;

        /// <summary>The whole file is ours as long as the session lasts.</summary>
        public ValueTask ClaimAsync(string token, CancellationToken cancellation) => ValueTask.CompletedTask;

        public ValueTask LockAsync(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation) =>
            RunAsync(query, arguments, into, cancellation);

        public ValueTask RunAsync(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation)
        {
            ((SqliteQuery)query).Run(connection, arguments, into, cancellation);
            return ValueTask.CompletedTask;
        }

        public ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation)
        {
            var (changed, returned) = connection.Execute(new SqliteText().Write(write).Text, SqliteText.Arguments(write), cancellation);
            return ValueTask.FromResult(new WriteResult(changed, returned ?? []));
        }

        public string Shown(RecordWrite write) => new SqliteText { Shown = [] }.Write(write).Text + ";";

        public ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            var (changed, _) = connection.Execute("INSERT OR IGNORE INTO jexa_commit (token, key) VALUES (?1, ?2)",
                [new Constant.Text(token), key is null ? Constant.Empty.Value : new Constant.Text(key)], cancellation);
            return ValueTask.FromResult(changed == 1);
        }

        public ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            var (_, returned) = connection.Execute("SELECT key FROM jexa_commit WHERE token = ?1", [new Constant.Text(token)], cancellation);
            return ValueTask.FromResult((returned is not null, (returned?[0] as Constant.Text)?.Value));
        }

        public ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation)
        {
            MakeNotes(cancellation);
            foreach (var token in tokens) connection.Execute("DELETE FROM jexa_commit WHERE token = ?1", [new Constant.Text(token)], cancellation);
            return ValueTask.CompletedTask;
        }

        public ValueTask CommitAsync()
        {
            connection.Execute("COMMIT", [], CancellationToken.None);
            writer._hasNotes |= _madeNotes;
            return ValueTask.CompletedTask;
        }

        public ValueTask DisposeAsync()
        {
            if (_ended) return ValueTask.CompletedTask;
            _ended = true;
            try
            {
                if (connection.IsInTransaction) connection.Execute("ROLLBACK", [], CancellationToken.None);
            }
            catch (SourceException)
            {
                // A connection that cannot even take back is not used again; closing it takes back.
                writer.Drop();
            }
            finally
            {
                writer._turn.Release();
            }

            return ValueTask.CompletedTask;
        }

        /// <summary>Our own table, made by the first change of a file.</summary>
        private void MakeNotes(CancellationToken cancellation)
        {
            if (writer._hasNotes || _madeNotes) return;
            connection.Execute("CREATE TABLE IF NOT EXISTS jexa_commit (token TEXT NOT NULL PRIMARY KEY, key TEXT) WITHOUT ROWID", [], cancellation);
            _madeNotes = true;
        }
    }

    private SourceSettings Settings => settings;
}
