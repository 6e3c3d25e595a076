using Jexa.Core.Sources;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// A fixed number of read connections to one file, opened when first needed, each with its statements kept prepared. The
/// driver's own pool keeps connections only, and makes each lookup half again as dear.
/// </summary>
internal sealed class SqlitePool : IDisposable
{
    private const int MillisecondsBetweenLooks = 200;

    private readonly string _path;
    private readonly string _shownAs;
    private readonly TimeSpan _timeLimit;
    private readonly SemaphoreSlim _free;
    private readonly Stack<SqliteReader> _idle = [];
    private readonly Lock _lock = new();
    private (ulong Inode, ulong Device)? _file;
    private long _lookedAt;
    private int _generation;
    private bool _disposed;

    /// <param name="shownAs">The connection as the app file writes it; the whole path stays out of messages.</param>
    public SqlitePool(string path, string shownAs, TimeSpan timeLimit)
    {
        _path = path;
        _shownAs = shownAs;
        _timeLimit = timeLimit;
        _free = new SemaphoreSlim(Math.Max(4, Environment.ProcessorCount * 2));
    }

    /// <summary>A connection for one caller at a time; dispose the lease to give it back.</summary>
    /// <exception cref="SourceException">The file is not there, is no database, or every connection stayed busy.</exception>
    public async ValueTask<Lease> RentAsync(CancellationToken cancellation)
    {
        if (!_free.Wait(0, CancellationToken.None) && !await _free.WaitAsync(_timeLimit, cancellation))
            throw new SourceException(SourceTrouble.TooSlow, $"Every connection to {_shownAs} stayed busy for {_timeLimit.TotalSeconds:0} s.");
        try
        {
            int generation;
            lock (_lock)
            {
                ObjectDisposedException.ThrowIf(_disposed, this);
                LookAtFile();
                generation = _generation;
                if (_idle.TryPop(out var idle)) return new Lease(this, idle);
            }

            return new Lease(this, Open(generation));
        }
        catch
        {
            _free.Release();
            throw;
        }
    }

    public void Dispose()
    {
        lock (_lock)
        {
            _disposed = true;
            while (_idle.TryPop(out var idle)) idle.Dispose();
        }

        _free.Dispose();
    }

    /// <summary>
    /// Every so often, sees whether the file is still the one that the connections were opened on: one that was put in its
    /// place is taken up, one that is gone is missed.
    /// </summary>
    private void LookAtFile()
    {
        var now = Environment.TickCount64;
        if (now - _lookedAt < MillisecondsBetweenLooks) return;
        _lookedAt = now;
        var file = FileIdentity.Of(_path);
        if (file == _file) return;
        _file = file;
        _generation++;
        while (_idle.TryPop(out var idle)) idle.Dispose();
    }

    private SqliteReader Open(int generation)
    {
        if (!File.Exists(_path))
            throw new SourceException(SourceTrouble.Away, Directory.Exists(_path) ? $"{_shownAs} is a folder, not a file." : $"There is no file {_shownAs}.");
        var settings = new SqliteConnectionStringBuilder
        {
            DataSource = _path,
            Mode = SqliteOpenMode.ReadOnly,
            Pooling = false,
            DefaultTimeout = (int)Math.Ceiling(_timeLimit.TotalSeconds),
        };
        var connection = new SqliteConnection(settings.ConnectionString);
        try
        {
            connection.Open();
            return new SqliteReader(connection, _timeLimit, generation);
        }
        catch (SqliteException refused)
        {
            connection.Dispose();
            throw SqliteTrouble.From(refused.SqliteErrorCode, refused.Message);
        }
        catch
        {
            connection.Dispose();
            throw;
        }
    }

    private void Return(SqliteReader connection)
    {
        lock (_lock)
        {
            if (_disposed)
            {
                connection.Dispose();
                return;
            }

            if (connection.IsBroken || connection.Generation != _generation) connection.Dispose();
            else _idle.Push(connection);
        }

        _free.Release();
    }

    public readonly struct Lease(SqlitePool pool, SqliteReader connection) : IDisposable
    {
        public SqliteReader Connection { get; } = connection;

        public void Dispose() => pool.Return(Connection);
    }
}
