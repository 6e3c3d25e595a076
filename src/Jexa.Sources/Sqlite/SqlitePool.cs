using Jexa.Core.Files;
using Jexa.Core.Sources;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// A fixed number of read connections to one file (a writer opens one more), opened when needed, each with prepared statements.
/// The driver's own pool keeps only connections, which makes each lookup half as slow again. <para> It notices when other
/// programs replace or remove the file or its write-ahead log. Without the log, connections of this process would still share it,
/// and what they write would be lost. So all of them are closed before a new one is opened. </para>
/// </summary>
internal sealed class SqlitePool : IDisposable
{
    private const int MillisecondsBetweenLooks = 200;

    private readonly string _path;
    private readonly string _shownAs;
    private readonly TimeSpan _timeLimit;
    private readonly TimeProvider _clock;

    /// <summary>Idle connections, taken and returned without a lock; first the one of the same processor.</summary>
    private readonly SqliteReader?[] _idle = new SqliteReader?[Math.Max(4, Environment.ProcessorCount * 2)];
    private readonly SemaphoreSlim _returned = new(0);
    private readonly Lock _looking = new();
    private readonly IDisposable _holding;
    private SqliteFiles _files;
    private long _lookedAt;
    private volatile int _generation;
    private volatile int _waiting;
    private int _open;

    /// <summary>All open connections: those for reading, of any generation, and the one for writing.</summary>
    private int _total;
    private volatile bool _draining;
    private volatile bool _disposed;

    /// <param name="path">The whole path, which stays out of messages.</param>
    public SqlitePool(string path, SourceSettings settings)
    {
        _path = path;
        _shownAs = settings.ShownAs;
        _timeLimit = settings.TimeLimit;
        _clock = settings.Clock;
        _holding = DatabaseFiles.Hold(path);
    }

    /// <summary>
    /// Called on another thread when the open connections are outdated. A writer must then close its connection soon.
    /// </summary>
    public Func<Task>? Outdated { get; set; }

    /// <summary>
    /// Whether the content of an outdated log may be written into its database before the connections are closed, because nobody
    /// else can have written there since.
    /// </summary>
    public bool MayKeepLog { get; private set; }

    /// <summary>A connection for one caller at a time. Dispose the lease to return it.</summary>
    /// <exception cref="SourceException">The file does not exist, is not a database, or all connections stayed busy.</exception>
    public ValueTask<Lease> RentAsync(CancellationToken cancellation)
    {
        ObjectDisposedException.ThrowIf(_disposed, this);
        LookAtFile();
        return TryTake() is { } idle ? new ValueTask<Lease>(new Lease(this, idle)) : OpenOrWaitAsync(cancellation);
    }

    /// <summary>The most connections for reading.</summary>
    public int Most => _idle.Length;

    public void Dispose()
    {
        _disposed = true;
        CloseIdle();
        _returned.Dispose();
        _holding.Dispose();
    }

    private async ValueTask<Lease> OpenOrWaitAsync(CancellationToken cancellation)
    {
        var started = _clock.Milliseconds();
        while (true)
        {
            Interlocked.Increment(ref _waiting);
            try
            {
                // Whoever returns or closes a connection then looks for waiting callers. So one of the two notices the other.
                if ((TryTake() ?? TryOpen()) is { } free)
                    return new Lease(this, free);
                var left = _timeLimit - TimeSpan.FromMilliseconds(_clock.Milliseconds() - started);
                if (left <= TimeSpan.Zero || !await _returned.WaitAsync(left, _clock, cancellation))
                    throw new SourceException(
                        SourceTrouble.TooSlow,
                        $"Every connection to {_shownAs} stayed busy for {_timeLimit.TotalSeconds:0} s."
                    );
            }
            finally
            {
                Interlocked.Decrement(ref _waiting);
            }
        }
    }

    /// <summary>An idle connection to the file as it is now; null for none.</summary>
    private SqliteReader? TryTake()
    {
        var first = Thread.GetCurrentProcessorId();
        for (var i = 0; i < _idle.Length; i++)
        {
            ref var place = ref _idle[(first + i) % _idle.Length];
            if (Volatile.Read(ref place) is null || Interlocked.Exchange(ref place, null) is not { } idle)
                continue;
            if (idle.Generation == _generation || _disposed)
                return idle;
            Close(idle);
        }

        return null;
    }

    /// <summary>A new connection; null if there are as many as allowed.</summary>
    private SqliteReader? TryOpen()
    {
        if (Interlocked.Increment(ref _open) > _idle.Length)
        {
            Interlocked.Decrement(ref _open);
            return null;
        }

        try
        {
            return Open(_generation);
        }
        catch
        {
            Interlocked.Decrement(ref _open);
            WakeOne();
            throw;
        }
    }

    private void Return(SqliteReader connection)
    {
        if (_disposed || connection.IsBroken || connection.Generation != _generation)
            Close(connection);
        else
            PutDown(connection);
        WakeOne();
        // It may have been returned just after the others were closed.
        if (_disposed)
            CloseIdle();
    }

    private void CloseIdle()
    {
        while (TryTake() is { } idle)
            Close(idle);
    }

    private void PutDown(SqliteReader connection)
    {
        var first = Thread.GetCurrentProcessorId();
        for (var i = 0; i < _idle.Length; i++)
            if (Interlocked.CompareExchange(ref _idle[(first + i) % _idle.Length], connection, null) is null)
                return;
        Close(connection);
    }

    private void Close(SqliteReader connection)
    {
        CloseUncounted(connection);
        Interlocked.Decrement(ref _open);
    }

    /// <summary>Closes a connection for writing.</summary>
    public void CloseForWriting(SqliteReader connection) => CloseUncounted(connection);

    private void CloseUncounted(SqliteReader connection)
    {
        connection.Dispose();
        Uncount();
    }

    private void Count()
    {
        lock (_looking)
        {
            Compare();
            if (_draining)
                throw new SourceException(
                    SourceTrouble.Away,
                    $"Another program replaced {_shownAs} or its write-ahead log; it is opened anew."
                );
            _total++;
        }
    }

    private void Uncount()
    {
        lock (_looking)
        {
            if (--_total > 0)
                return;

            // Nobody has the log open any more: SQLite has removed it, or the next program decides.
            _draining = false;
            _files = SqliteFiles.At(_path) with { Log = null, Index = null };
        }
    }

    private void WakeOne()
    {
        if (_waiting > 0 && !_disposed)
            _returned.Release();
    }

    /// <summary>
    /// Checks from time to time whether the files are still those of the connections. A replaced file is opened; a missing one is
    /// reported.
    /// </summary>
    private void LookAtFile()
    {
        if (_clock.Milliseconds() - Volatile.Read(ref _lookedAt) < MillisecondsBetweenLooks || !_looking.TryEnter())
            return;
        try
        {
            Compare();
        }
        finally
        {
            _looking.Exit();
        }
    }

    /// <summary>
    /// Whether a connection's files are those at the path at this moment. Only then can others read what it has committed.
    /// </summary>
    public bool IsCurrent(SqliteReader connection)
    {
        lock (_looking)
            Compare();
        return connection.Generation == _generation;
    }

    private void Compare()
    {
        Volatile.Write(ref _lookedAt, _clock.Milliseconds());
        if (_draining)
            return;
        var files = SqliteFiles.At(_path);
        var known = _files;
        if (_total == 0 || files.AreThose(known))
        {
            if (files.Database != known.Database)
                _generation++;
            _files = _total == 0 ? files with { Log = null, Index = null } : files;
            return;
        }

        // Without a log, a new file in the database's place is complete by itself. With one, SQLite shares the log's index among
        // all connections of a process and would apply the old log to the new file. So the old connections are closed first.
        _draining = known.Log is not null;
        _generation++;
        if (!_draining)
            _files = files;

        MayKeepLog = files.Database != known.Database || (files.Log is null && files.ChangedAt == known.ChangedAt);
        if (Outdated is { } tell)
            Task.Run(tell);
        Task.Run(CloseIdle);
    }

    /// <summary>The number of the present file, counted up with each replacement.</summary>
    public int Generation
    {
        get
        {
            LookAtFile();
            return _generation;
        }
    }

    /// <summary>A new connection to the file as it is now.</summary>
    public SqliteReader OpenForWriting()
    {
        lock (_looking)
            Compare();
        return Open(_generation, writes: true);
    }

    private SqliteReader Open(int generation, bool writes = false)
    {
        if (!File.Exists(_path))
        {
            throw new SourceException(
                SourceTrouble.Away,
                Directory.Exists(_path) ? $"{_shownAs} is a folder, not a file." : $"There is no file {_shownAs}."
            )
            {
                IsSettled = true,
            };
        }

        var settings = new SqliteConnectionStringBuilder
        {
            DataSource = _path,
            Mode = writes ? SqliteOpenMode.ReadWrite : SqliteOpenMode.ReadOnly,
            Pooling = false,
            DefaultTimeout = (int)Math.Ceiling(_timeLimit.TotalSeconds),
        };
        var connection = new SqliteConnection(settings.ConnectionString);
        Count();
        var isOpen = false;
        try
        {
            connection.Open();
            var opened = new SqliteReader(connection, _timeLimit, _clock, generation, writes);

            // It has read by now, and so has the log open if there is one.
            lock (_looking)
                Compare();
            isOpen = true;
            return opened;
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
        finally
        {
            if (!isOpen)
                Uncount();
        }
    }

    public readonly struct Lease(SqlitePool pool, SqliteReader connection) : IDisposable
    {
        public SqliteReader Connection { get; } = connection;

        public void Dispose() => pool.Return(Connection);
    }
}
