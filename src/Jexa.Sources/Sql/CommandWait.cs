using System.Threading.Tasks.Sources;
using Jexa.Core.Sources;

namespace Jexa.Sources.Sql;

/// <summary>
/// Lets a caller wait for a command on a connection. The wait ends once: with the command, at the time limit, or when the visitor
/// leaves. In the last two cases the command goes on by itself. There is one object for each connection, used for one command
/// after another: every visit waits, so nothing is allocated, and the timer is rarely set.
/// </summary>
/// <param name="limit">The time limit of each command.</param>
/// <param name="late">Makes the exception at the time limit.</param>
/// <param name="ended">Called when the caller has the result, and this wait has ended for good.</param>
internal sealed class CommandWait(TimeSpan limit, TimeProvider clock, Func<Exception> late, Action ended)
    : IValueTaskSource,
        IDisposable
{
    private ITimer? _timer;
    private ManualResetValueTaskSourceCore<bool> _core;
    private CancellationToken _visitor;
    private CancellationTokenRegistration _leaving;
    private long _deadline;
    private bool _isUnderWay;
    private bool _isWatched;

    /// <summary>Lock it before touching anything of the caller's.</summary>
    public Lock Gate { get; } = new();

    /// <summary>
    /// Whether the caller has gone and the command goes on. It must not touch anything of the caller's from then on; the gate
    /// ensures that.
    /// </summary>
    public bool IsAbandoned { get; private set; }

    /// <summary>Whether the command has used up its time.</summary>
    public bool IsLate => clock.Milliseconds() >= _deadline;

    /// <summary>Begins to wait. Await the result once.</summary>
    public ValueTask BeginAsync(CancellationToken visitor)
    {
        lock (Gate)
        {
            _isUnderWay = true;
            _deadline = clock.Milliseconds() + (long)limit.TotalMilliseconds;
            if (!_isWatched)
                Watch(limit);
        }

        _visitor = visitor;
        if (visitor.CanBeCanceled)
            _leaving = visitor.UnsafeRegister(static wait => ((CommandWait)wait!).Leave(), this);
        return new ValueTask(this, _core.Version);
    }

    /// <summary>Ends the wait: the command has ended.</summary>
    /// <param name="error">Its exception; null if it succeeded.</param>
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
            // A visitor who leaves from now on must not end the next visitor's command.
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
        _timer ??= clock.CreateTimer(
            static wait => ((CommandWait)wait!).Look(),
            this,
            Timeout.InfiniteTimeSpan,
            Timeout.InfiniteTimeSpan
        );
        _timer.Change(time, Timeout.InfiniteTimeSpan);
    }

    /// <summary>
    /// The timer is not reset when a command ends in time. When it fires, it checks whether a command is running, and since when.
    /// </summary>
    private void Look()
    {
        lock (Gate)
        {
            _isWatched = false;
            if (!_isUnderWay)
                return;
            var left = _deadline - clock.Milliseconds();
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
        // The caller must not continue on the thread of the timer, or of whoever ends the visit.
        _core.RunContinuationsAsynchronously = true;
        _core.SetException(why);
    }
}
