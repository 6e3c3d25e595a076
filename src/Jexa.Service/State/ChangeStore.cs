using Jexa.Core.Edits;
using Microsoft.Data.Sqlite;

namespace Jexa.Service.State;

/// <summary>
/// The change log, in a database of Jexa's own in the state folder. Several processes may share it. An intent is on disk before
/// the source commits. A confirmation need not be, because the source's own note says the same.
/// </summary>
public sealed class ChangeStore : IChangeLog, IDisposable
{
    private const string Columns =
        "c.number, c.token, c.digest, c.at, c.state, c.page, c.source, c.record, c.key, c.id, c.kind, "
        + "c.fields, c.location, c.noted, c.undoes, c.by_whom, "
        + "(SELECT u.number FROM change u WHERE u.undoes = c.number AND u.state = 1 LIMIT 1)";

    private readonly LogDatabase _database;
    private readonly TimeProvider _clock;
    private readonly List<string> _confirmed = [];
    private readonly ITimer _flushing;

    /// <param name="identity">The state folder's identity. A new log gets it.</param>
    /// <exception cref="IOException">The database is of a later version of Jexa.</exception>
    public ChangeStore(string file, string identity, TimeProvider clock)
    {
        _clock = clock;
        _flushing = clock.CreateTimer(_ => FlushInTime(), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan);
        _database = new LogDatabase(file, identity, clock);
        Process = $"{Environment.ProcessId}-{Guid.NewGuid():N}";
    }

    /// <summary>The state folder that the log belongs to; null if it could not be opened yet.</summary>
    public string? Identity => _database.Identity;

    /// <summary>Why nothing can be changed now, for the operator; null if the log can be used.</summary>
    public string? Trouble => _database.Trouble;

    /// <summary>Whether the log was deleted or replaced while it was open.</summary>
    public bool IsLost => _database.IsLost;

    /// <summary>Checks whether the log can be written to.</summary>
    public bool IsWritable() => _database.IsWritable();

    /// <summary>The number of this process in the log.</summary>
    public string Process { get; }

    private static readonly TimeSpan FlushAfter = TimeSpan.FromMilliseconds(100);

    /// <summary>For how long only the process of an intent may decide it: longer than any commit takes.</summary>
    public static TimeSpan Lease { get; } = TimeSpan.FromSeconds(12);

    public bool TryIntend(ChangeIntent intent) =>
        Guarded(() =>
        {
            var isNew = Whole(() => Intend(intent));
            _database.StandBy();
            _confirmed.Clear();
            return isNew;
        });

    private bool Intend(ChangeIntent intent)
    {
        RunConfirmed();
        var command = Command(
            "INSERT OR IGNORE INTO change (token, digest, at, state, page, source, record, key, id, kind, "
                + "fields, location, noted, undoes, process, lease) "
                + "VALUES (@token, @digest, @at, 0, @page, @source, @record, @key, @id, @kind, @fields, "
                + "@location, @noted, @undoes, @process, @lease) RETURNING number",
            ("@token", intent.Token),
            ("@digest", intent.Digest),
            ("@at", Now()),
            ("@page", intent.Page),
            ("@source", intent.Source),
            ("@record", intent.Record),
            ("@key", intent.Key),
            ("@id", intent.Id),
            ("@kind", (long)intent.Kind),
            ("@fields", ChangeFields.Write(intent.Fields)),
            ("@location", intent.Location),
            ("@noted", intent.IsNoted ? 1L : 0L),
            ("@undoes", intent.Undoes),
            ("@process", Process),
            ("@lease", Now() + (long)Lease.TotalMilliseconds)
        );
        if (command.ExecuteScalar() is not long number)
            return false;
        foreach (var happened in intent.KeyEvents)
            Run(
                "INSERT INTO key_event (scope, key, change, kind, to_key) VALUES (@scope, @key, @change, @kind, @to)",
                ("@scope", happened.Scope),
                ("@key", happened.Key),
                ("@change", number),
                ("@kind", (long)happened.Kind),
                ("@to", happened.To)
            );
        return true;
    }

    /// <summary>
    /// It need not be on disk at once, because the source's own note says the same. It is written with the next intent, before
    /// the next read, or a moment later.
    /// </summary>
    public void Confirm(string token)
    {
        lock (_database.Turn)
        {
            _confirmed.Add(token);
            _flushing.Change(FlushAfter, Timeout.InfiniteTimeSpan);
        }
    }

    /// <summary>Writes the confirmations.</summary>
    private void Flush()
    {
        if (_confirmed.Count == 0)
            return;
        Whole(() =>
        {
            RunConfirmed();
            return true;
        });
        _confirmed.Clear();
    }

    private void RunConfirmed()
    {
        foreach (var token in _confirmed)
            Run("UPDATE change SET state = 1 WHERE token = @token", ("@token", token));
    }

    private void FlushInTime()
    {
        try
        {
            lock (_database.Turn)
                if (_database.IsOpen)
                    Flush();
        }
        catch (SqliteException)
        {
            // It is then written with the next intent, or decided by the source's note.
        }
    }

    public void Drop(string token) =>
        Guarded(() => Run("DELETE FROM change WHERE token = @token AND state = 0", ("@token", token)));

    public LoggedChange? Find(string token) =>
        Guarded(() =>
        {
            // Other confirmations of the same moment do not matter here.
            if (_confirmed.Contains(token))
                Flush();
            return Read(Command($"SELECT {Columns} FROM change c WHERE c.token = @token", ("@token", token))).FirstOrDefault();
        });

    public LoggedChange? Find(long number) =>
        Read(() =>
            Read(Command($"SELECT {Columns} FROM change c WHERE c.number = @number", ("@number", number))).FirstOrDefault()
        );

    public IReadOnlyList<LoggedChange> Read(ChangeQuestion question) =>
        Read(() =>
            Read(
                Command(
                    $"SELECT {Columns} FROM change c WHERE (@record IS NULL OR c.record = @record) AND (@id IS NULL "
                        + "OR c.id = @id) AND (@page IS NULL OR c.page = @page) "
                        + "AND (@kind IS NULL OR c.kind = @kind) AND (@state IS NULL OR c.state = @state) AND (@since IS "
                        + "NULL OR c.at >= @since) AND (@before IS NULL OR c.number < @before) "
                        + "ORDER BY c.number DESC LIMIT @limit",
                    ("@record", question.Record),
                    ("@id", question.Id),
                    ("@page", question.Page),
                    ("@kind", (long?)question.Kind),
                    ("@state", (long?)question.State),
                    ("@since", question.Since?.ToUnixTimeMilliseconds()),
                    ("@before", question.Before),
                    ("@limit", (long)question.Limit)
                )
            )
        );

    public LoggedKeyEvent? LatestKeyEvent(string scope, string key) => ReadKeyEvent("DESC", scope, key, -1);

    public LoggedKeyEvent? NextKeyEvent(string scope, string key, long behind) => ReadKeyEvent("ASC", scope, key, behind);

    /// <summary>Intents whose lease is over: their process ended, or could not confirm them.</summary>
    public IReadOnlyList<LoggedChange> Lapsed() =>
        Read(() =>
            Read(
                Command($"SELECT {Columns} FROM change c WHERE c.state = 0 AND c.lease < @now ORDER BY c.number", ("@now", Now()))
            )
        );

    /// <summary>Nothing tells any more whether the change was made.</summary>
    public void GiveUp(string token) =>
        Guarded(() => Run("UPDATE change SET state = 2 WHERE token = @token AND state = 0", ("@token", token)));

    /// <summary>Confirmed changes whose notes can be removed from their source.</summary>
    public IReadOnlyList<(string Token, string Record)> Forgettable(TimeSpan age, int most) =>
        Read(() =>
        {
            var found = new List<(string, string)>();
            using var reader = Command(
                    "SELECT token, record FROM change WHERE forgotten = 0 AND state = 1 AND noted = 1 AND at < "
                        + "@before ORDER BY at LIMIT @most",
                    ("@before", Now() - (long)age.TotalMilliseconds),
                    ("@most", (long)most)
                )
                .ExecuteReader();
            while (reader.Read())
                found.Add((reader.GetString(0), reader.GetString(1)));
            return found;
        });

    /// <summary>Whether any change of a source was ever logged: only then can the source have notes.</summary>
    public bool Knows(string source) =>
        Read(() =>
            Command("SELECT 1 FROM change WHERE source = @source LIMIT 1", ("@source", source)).ExecuteScalar() is not null
        );

    /// <summary>Records which notes without a change a source has. Returns those first seen longer ago than an age.</summary>
    public IReadOnlyList<string> SeeStrayNotes(string source, IReadOnlyCollection<string> tokens, TimeSpan age) =>
        Guarded(() =>
            Whole(() =>
            {
                foreach (var token in tokens)
                    Run(
                        "INSERT OR IGNORE INTO stray_note VALUES (@source, @token, @now)",
                        ("@source", source),
                        ("@token", token),
                        ("@now", Now())
                    );
                var old = new List<string>();
                using var reader = Command(
                        "SELECT token FROM stray_note WHERE source = @source AND seen < @before",
                        ("@source", source),
                        ("@before", Now() - (long)age.TotalMilliseconds)
                    )
                    .ExecuteReader();
                while (reader.Read())
                    old.Add(reader.GetString(0));
                return old;
            })
        );

    public void ForgotStrayNotes(string source, IEnumerable<string> tokens) =>
        Guarded(() =>
            Whole(() =>
            {
                foreach (var token in tokens)
                    Run(
                        "DELETE FROM stray_note WHERE source = @source AND token = @token",
                        ("@source", source),
                        ("@token", token)
                    );
                return true;
            })
        );

    /// <summary>
    /// Removes changes older than an age, the oldest first, if their notes have been removed from their source.
    /// </summary>
    /// <returns>The number of removed changes.</returns>
    public int Trim(TimeSpan age, int most) =>
        Guarded(() =>
            Run(
                "DELETE FROM change WHERE number IN (SELECT number FROM change WHERE at < @before AND state <> "
                    + "0 AND (noted = 0 OR forgotten = 1) ORDER BY at LIMIT @most)",
                ("@before", Now() - (long)age.TotalMilliseconds),
                ("@most", (long)most)
            )
        );

    /// <summary>Checks whether the log is still the one at its path.</summary>
    /// <exception cref="Core.Sources.SourceException">It is not, or cannot be opened.</exception>
    public void Look() =>
        Guarded(() =>
        {
            _database.StandBy();
            return true;
        });

    public void Forgot(IEnumerable<string> tokens) =>
        Guarded(() =>
            Whole(() =>
            {
                foreach (var token in tokens)
                    Run("UPDATE change SET forgotten = 1 WHERE token = @token", ("@token", token));
                return true;
            })
        );

    public void Dispose()
    {
        _flushing.Dispose();
        FlushInTime();
        _database.Dispose();
    }

    public IReadOnlyList<string> KeysWithEvents(string scope, int most) =>
        Read(() =>
        {
            var keys = new List<string>();
            using var reader = Command(
                    "SELECT e.key FROM key_event e JOIN change c ON c.number = e.change WHERE e.scope = @scope AND c.state = 1 "
                        + "GROUP BY e.key ORDER BY max(e.change) DESC LIMIT @most",
                    ("@scope", scope),
                    ("@most", (long)most)
                )
                .ExecuteReader();
            while (reader.Read())
                keys.Add(reader.GetString(0));
            return keys;
        });

    private LoggedKeyEvent? ReadKeyEvent(string direction, string scope, string key, long behind) =>
        Read(() =>
        {
            using var reader = Command(
                    "SELECT e.change, e.kind, e.to_key FROM key_event e JOIN change c ON c.number = e.change WHERE "
                        + "e.scope = @scope AND e.key = @key AND e.change > @behind AND c.state = 1 ORDER BY e.change "
                        + $"{direction} LIMIT 1",
                    ("@scope", scope),
                    ("@key", key),
                    ("@behind", behind)
                )
                .ExecuteReader();
            return reader.Read()
                ? new LoggedKeyEvent(
                    reader.GetInt64(0),
                    (ChangeKind)reader.GetInt64(1),
                    reader.IsDBNull(2) ? null : reader.GetString(2)
                )
                : null;
        });

    private static List<LoggedChange> Read(SqliteCommand command)
    {
        var changes = new List<LoggedChange>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            var intent = new ChangeIntent(
                reader.GetString(1),
                reader.GetString(2),
                reader.GetString(5),
                reader.GetString(6),
                reader.GetString(7),
                reader.GetString(8),
                reader.GetString(9),
                (ChangeKind)reader.GetInt64(10),
                ChangeFields.Read(reader.GetString(11)),
                reader.GetString(12),
                reader.GetInt64(13) != 0,
                [],
                reader.IsDBNull(14) ? null : reader.GetInt64(14)
            );
            changes.Add(
                new LoggedChange(
                    reader.GetInt64(0),
                    DateTimeOffset.FromUnixTimeMilliseconds(reader.GetInt64(3)),
                    (ChangeState)reader.GetInt64(4),
                    reader.IsDBNull(15) ? null : reader.GetString(15),
                    reader.IsDBNull(16) ? null : reader.GetInt64(16),
                    intent
                )
            );
        }

        return changes;
    }

    private T Whole<T>(Func<T> act) => _database.Whole(act);

    private T Guarded<T>(Func<T> ask) => _database.Guarded(ask);

    private int Run(string sql, params (string Name, object? Value)[] values) => _database.Run(sql, values);

    private SqliteCommand Command(string sql, params (string Name, object? Value)[] values) => _database.Command(sql, values);

    private long Now() => _clock.GetUtcNow().ToUnixTimeMilliseconds();

    /// <summary>Reads the log, with all confirmations written before.</summary>
    private T Read<T>(Func<T> ask) =>
        Guarded(() =>
        {
            Flush();
            return ask();
        });
}
