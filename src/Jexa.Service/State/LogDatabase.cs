using System.Globalization;
using Jexa.Core.Files;
using Jexa.Core.Sources;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Jexa.Service.State;

/// <summary>
/// The database of the change log: its one connection, its commands, and whether its files are still those at their path. <para>
/// If it cannot be opened (a full or damaged disk), nothing can be changed until it can; this is tried again every few seconds.
/// If somebody deletes or replaces it while it is open, nothing can be changed until the service is started again. </para>
/// </summary>
internal sealed class LogDatabase : IDisposable
{
    private static readonly TimeSpan PauseBetweenTries = TimeSpan.FromSeconds(2);

    private readonly string _file;
    private readonly string _identity;
    private readonly TimeProvider _clock;
    private readonly IDisposable _holding;
    private readonly Dictionary<string, SqliteCommand> _commands = [];
    private SqliteConnection? _connection;
    private SqliteFiles _files;
    private long _triedAt;
    private bool _disposed;

    /// <param name="identity">The state folder's identity. A new log gets it.</param>
    /// <exception cref="IOException">The database is of a later version of Jexa.</exception>
    public LogDatabase(string file, string identity, TimeProvider clock)
    {
        (_file, _identity, _clock) = (file, identity, clock);
        _holding = DatabaseFiles.Hold(file);
        TryOpen();
    }

    /// <summary>Lock it before using the connection.</summary>
    public Lock Turn { get; } = new();

    /// <summary>The state folder that the log belongs to; null if it could not be opened yet.</summary>
    public string? Identity { get; private set; }

    /// <summary>Why nothing can be changed now, for the operator; null if the log can be used.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Whether the log was deleted or replaced while it was open.</summary>
    public bool IsLost { get; private set; }

    public bool IsOpen => _connection is not null;

    /// <summary>The state folder that a log belongs to; null if it cannot be told.</summary>
    public static string? IdentityOf(string file)
    {
        try
        {
            using var connection = new SqliteConnection($"Data Source={file};Mode=ReadOnly;Pooling=False");
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = "SELECT identity FROM about";
            return command.ExecuteScalar() as string;
        }
        catch (SqliteException)
        {
            return null;
        }
    }

    /// <summary>Checks whether the log can be written to.</summary>
    public bool IsWritable()
    {
        lock (Turn)
        {
            try
            {
                Ready();
                Whole(() => Run("UPDATE about SET identity = identity"));
                return true;
            }
            catch (Exception trouble) when (trouble is SqliteException or SourceException)
            {
                Trouble = trouble.Message;
                return false;
            }
        }
    }

    /// <summary>Uses the database.</summary>
    /// <exception cref="SourceException">It cannot be used now, or is lost.</exception>
    public T Guarded<T>(Func<T> ask)
    {
        lock (Turn)
        {
            try
            {
                Ready();
                var answer = ask();
                Trouble = null;
                return answer;
            }
            catch (SqliteException trouble)
            {
                var isBusy = trouble.SqliteErrorCode is raw.SQLITE_BUSY or raw.SQLITE_LOCKED;
                var reason = $"The change log cannot be used: {trouble.Message}";
                if (!isBusy)
                    Trouble = reason;
                throw new SourceException(isBusy ? SourceTrouble.TooSlow : SourceTrouble.Away, reason, trouble);
            }
        }
    }

    public int Run(string sql, params (string Name, object? Value)[] values) => Command(sql, values).ExecuteNonQuery();

    /// <summary>A command that is kept prepared.</summary>
    public SqliteCommand Command(string sql, params (string Name, object? Value)[] values)
    {
        if (!_commands.TryGetValue(sql, out var command))
        {
            command = _connection!.CreateCommand();
            command.CommandText = sql;
            _commands[sql] = command;
        }

        command.Parameters.Clear();
        foreach (var (name, value) in values)
            command.Parameters.AddWithValue(name, value ?? DBNull.Value);
        return command;
    }

    public void Dispose()
    {
        lock (Turn)
        {
            _disposed = true;
            Close();
        }

        _holding.Dispose();
    }

    private void TryOpen()
    {
        _triedAt = _clock.GetTimestamp();
        try
        {
            // Created first, so that only its owner can ever read it.
            if (!File.Exists(_file))
                PlainFile.Replace(_file, [], PlainFile.OwnerOnly);
            _connection = new SqliteConnection($"Data Source={_file};Pooling=False;Default Timeout=5");
            _connection.Open();
            Run("PRAGMA journal_mode=WAL");
            Run("PRAGMA synchronous=FULL");
            Run("PRAGMA foreign_keys=1");
            Migrate(_file);
            Identity = (string)Command("SELECT identity FROM about").ExecuteScalar()!;
            _files = SqliteFiles.At(_file);
            Trouble = null;
        }
        catch (Exception refused) when (refused is SqliteException or IOException && refused is not LaterVersionException)
        {
            Close();
            Trouble = $"The change log {_file} cannot be used: {refused.Message}";
        }
        catch
        {
            Close();
            throw;
        }
    }

    private void Close()
    {
        foreach (var command in _commands.Values)
            command.Dispose();
        _commands.Clear();
        _connection?.Dispose();
        _connection = null;
    }

    /// <summary>Ensures that there is a connection, and that its files are still those at their path.</summary>
    private void Ready()
    {
        if (_disposed)
            throw new SourceException(SourceTrouble.Away, "The service is ending.");
        if (IsLost)
            throw new SourceException(SourceTrouble.Away, Trouble!);
        if (_connection is null && _clock.GetElapsedTime(_triedAt) > PauseBetweenTries)
            TryOpen();
        if (_connection is null)
            throw new SourceException(SourceTrouble.Away, Trouble!);
    }

    /// <summary>Ensures that others can read what was just committed.</summary>
    /// <exception cref="SourceException">They cannot.</exception>
    public void StandBy()
    {
        var files = SqliteFiles.At(_file);
        if (files.AreThose(_files) && FileStatus.Of(_file) is { Length: > 0 })
            return;
        if (files.Database == _files.Database && files.Log is null && FileStatus.Of(_file) is { Length: > 0 })
        {
            // Only the log beside it was removed. Closing the database writes the content of that log into it.
            Close();
            TryOpen();
            throw new SourceException(
                SourceTrouble.Away,
                Trouble ?? "Somebody removed the change log's write-ahead log; it was opened anew."
            );
        }

        IsLost = true;
        Trouble =
            $"The change log {_file} was deleted, emptied or replaced while Jexa was using it. Nothing can "
            + "be changed before it is put back and Jexa is started again.";
        throw new SourceException(SourceTrouble.Away, Trouble);
    }

    private void Migrate(string file) =>
        Whole(() =>
        {
            var version = Convert.ToInt32(Command("PRAGMA user_version").ExecuteScalar(), CultureInfo.InvariantCulture);
            if (version > ChangeSchema.Migrations.Length)
            {
                throw new LaterVersionException(
                    $"The change log {file} was made by a later version of Jexa (its version is {version}, this one "
                        + $"knows {ChangeSchema.Migrations.Length})."
                );
            }

            for (var next = version; next < ChangeSchema.Migrations.Length; next++)
                Run(ChangeSchema.Migrations[next]);
            Run("INSERT INTO about (identity) SELECT @identity WHERE NOT EXISTS (SELECT 1 FROM about)", ("@identity", _identity));
            Run($"PRAGMA user_version={ChangeSchema.Migrations.Length}");
            return true;
        });

    /// <summary>Runs something in a transaction.</summary>
    public T Whole<T>(Func<T> act)
    {
        Run("BEGIN IMMEDIATE");
        try
        {
            var result = act();
            Run("COMMIT");
            return result;
        }
        catch
        {
            TakeBack();
            throw;
        }
    }

    /// <summary>
    /// Rolls back a transaction that failed. After some errors SQLite has done so already. The first error is the one to report.
    /// </summary>
    private void TakeBack()
    {
        try
        {
            Run("ROLLBACK");
        }
        catch (SqliteException)
        {
            // The first error says why.
        }
    }

    private sealed class LaterVersionException(string message) : IOException(message);
}
