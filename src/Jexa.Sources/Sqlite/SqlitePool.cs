using Jexa.Core.Files;
using Jexa.Core.Sources;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// A fixed number of read connections to one file (whoever writes opens one more), opened when first needed, each with its
/// statements
/// kept prepared. The driver's own pool keeps connections only, and makes each lookup half again as dear.
/// <para>
/// It sees when other programs replace or remove the file or its write-ahead log. If the log is gone, connections in this process
/// would go on using it together, and what they write would be lost: all of them are closed before a new one is opened.
/// </para>
/// </summary>
internal sealed class SqlitePool : IDisposable
{
    private const int MillisecondsBetweenLooks = 200;

    private readonly string _path;
    private readonly string _shownAs;
    private readonly TimeSpan _timeLimit;

    /// <summary>Connections that nobody uses; taken and given back without a lock, the own processor's first.</summary>
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

    /// <param name="shownAs">The connection as the app file writes it; the whole path stays out of messages.</param>
    public SqlitePool(string path, string shownAs, TimeSpan timeLimit)
    {
        _path = path;
        _shownAs = shownAs;
        _timeLimit = timeLimit;
        _holding = DatabaseFiles.Hold(path);
    }

    /// <summary>
    /// Called once the open connections are outdated, on another thread: whoever writes must close its connection soon.
    /// </summary>
    public Func<Task>? Outdated { get; set; }

    /// <summary>
    /// Whether what stands in the log of outdated connections alone may be put into their database before they are closed: nobody
    /// else can have written there since.
    /// </summary>
    public bool MayKeepLog { get; private set; }

    /// <summary>A connection for one caller at a time; dispose the lease to give it back.</summary>
    /// <exception cref="SourceException">The file is not there, is no database, or every connection stayed busy.</exception>
    public ValueTask<Lease> RentAsync(CancellationToken cancellation)
    {
        ObjectDisposedException.ThrowIf(_disposed, this);
        LookAtFile();
        return TryTake() is { } idle ? new ValueTask<Lease>(new Lease(this, idle)) : OpenOrWaitAsync(cancellation);
    }

    /// <summary>The most read connections.</summary>
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
        var started = Environment.TickCount64;
        while (true)
        {
            Interlocked.Increment(ref _waiting);
            try
            {
                // Whoever gives one back, or closes it, looks for those who wait after that: one of the two sees the other.
                if ((TryTake() ?? TryOpen()) is { } free)
                    return new Lease(this, free);
                var left = _timeLimit - TimeSpan.FromMilliseconds(Environment.TickCount64 - started);
                if (left <= TimeSpan.Zero || !await _returned.WaitAsync(left, cancellation))
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

    /// <summary>An idle connection to the file as it is now; null if there is none.</summary>
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

    /// <summary>A new connection; null if there are as many as there may be.</summary>
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
        // It may have been put down just after the others were closed.
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

            // Nobody has the log open any more: SQLite has removed it, or whoever comes next decides what it is.
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
    /// Every so often, sees whether the files are still those that the connections were opened on: a file that was put in its
    /// place is taken up, one that is gone is missed.
    /// </summary>
    private void LookAtFile()
    {
        if (Environment.TickCount64 - Volatile.Read(ref _lookedAt) < MillisecondsBetweenLooks || !_looking.TryEnter())
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
    /// Whether a connection's files are those at the path at this very moment. What it has committed can be read by others only
    /// then.
    /// </summary>
    public bool IsCurrent(SqliteReader connection)
    {
        lock (_looking)
            Compare();
        return connection.Generation == _generation;
    }

    private void Compare()
    {
        Volatile.Write(ref _lookedAt, Environment.TickCount64);
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

        // Without a log, a file in the database's place is a database by itself. With one, SQLite shares the log's index among
        // all
        // connections of a process, and would play the old log over a new file: the old connections are closed first.
        _draining = known.Log is not null;
        _generation++;
        if (!_draining)
            _files = files;

        MayKeepLog = files.Database != known.Database || (files.Log is null && files.ChangedAt == known.ChangedAt);
        if (Outdated is { } tell)
            Task.Run(tell);
        Task.Run(CloseIdle);
    }

    /// <summary>Which of the files that stood at the path is there now.</summary>
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
            var opened = new SqliteReader(connection, _timeLimit, generation, writes);

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
