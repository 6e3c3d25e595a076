using System.Threading.Tasks.Sources;

namespace Jexa.Sources.Sql;

/// <summary>
/// A caller's wait for what a connection is at. It ends once: with the work itself, at the time limit, or when the visitor
/// leaves; in the latter two the work is left to itself. One for each connection, used for one command after the other, since
/// every visit waits: it makes nothing anew, and its timer is set once for many.
/// </summary>
/// <param name="limit">Of each command.</param>
/// <param name="late">What the caller is told where the time limit ends the wait.</param>
/// <param name="ended">Called when the caller has the result, and nothing of this wait can happen any more.</param>
internal sealed class CommandWait(TimeSpan limit, Func<Exception> late, Action ended) : IValueTaskSource, IDisposable
{
    private Timer? _timer;
    private ManualResetValueTaskSourceCore<bool> _core;
    private CancellationToken _visitor;
    private CancellationTokenRegistration _leaving;
    private long _deadline;
    private bool _isUnderWay;
    private bool _isWatched;

    /// <summary>Held by whoever touches what is the caller's own.</summary>
    public Lock Gate { get; } = new();

    /// <summary>
    /// Whether nobody waits any more for work that still goes on: from then on it touches nothing of the caller's, which the gate
    /// makes sure of.
    /// </summary>
    public bool IsAbandoned { get; private set; }

    /// <summary>Whether the time limit of the command is over.</summary>
    public bool IsLate => Environment.TickCount64 >= _deadline;

    /// <summary>Begins to wait. Await what comes of it, once.</summary>
    public ValueTask BeginAsync(CancellationToken visitor)
    {
        lock (Gate)
        {
            _isUnderWay = true;
            _deadline = Environment.TickCount64 + (long)limit.TotalMilliseconds;
            if (!_isWatched)
                Watch(limit);
        }

        _visitor = visitor;
        if (visitor.CanBeCanceled)
            _leaving = visitor.UnsafeRegister(static wait => ((CommandWait)wait!).Leave(), this);
        return new ValueTask(this, _core.Version);
    }

    /// <summary>The work has come to its end.</summary>
    /// <param name="error">What it failed with; null if it did not.</param>
    public void End(Exception? error)
    {
        lock (Gate)
        {
            if (!_isUnderWay)
                return;
            _isUnderWay = false;
        }

        if (error is null)
            _core.SetResult(true);
        else
            _core.SetException(error);
    }

    ValueTaskSourceStatus IValueTaskSource.GetStatus(short token) => _core.GetStatus(token);

    void IValueTaskSource.OnCompleted(
        Action<object?> continuation,
        object? state,
        short token,
        ValueTaskSourceOnCompletedFlags flags
    ) => _core.OnCompleted(continuation, state, token, flags);

    void IValueTaskSource.GetResult(short token)
    {
        try
        {
            _core.GetResult(token);
        }
        finally
        {
            // A visitor who leaves from here on must not end the command of the next one.
            _leaving.Dispose();
            _leaving = default;
            _core.Reset();
            ended();
        }
    }

    public void Dispose() => _timer?.Dispose();

    private void Watch(TimeSpan time)
    {
        _isWatched = true;
        _timer ??= new Timer(static wait => ((CommandWait)wait!).Look(), this, Timeout.Infinite, Timeout.Infinite);
        _timer.Change(time, Timeout.InfiniteTimeSpan);
    }

    /// <summary>
    /// The timer is not set back by a command that ends in time: it looks whether one is under way, and since when.
    /// </summary>
    private void Look()
    {
        lock (Gate)
        {
            _isWatched = false;
            if (!_isUnderWay)
                return;
            var left = _deadline - Environment.TickCount64;
            if (left > 0)
            {
                Watch(TimeSpan.FromMilliseconds(left));
                return;
            }

            Abandon();
        }

        Fail(late());
    }

    private void Leave()
    {
        lock (Gate)
        {
            if (!_isUnderWay)
                return;
            Abandon();
        }

        Fail(new OperationCanceledException(_visitor));
    }

    private void Abandon() => (_isUnderWay, IsAbandoned) = (false, true);

    private void Fail(Exception why)
    {
        // Neither a timer nor whoever ends the visit is to do what the caller does next.
        _core.RunContinuationsAsynchronously = true;
        _core.SetException(why);
    }
}
