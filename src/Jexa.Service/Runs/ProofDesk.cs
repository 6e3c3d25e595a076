using Jexa.Core.Edits;
using Jexa.Service.Hosting;
using Jexa.Service.Proof;
using Jexa.Service.State;

namespace Jexa.Service.Runs;

/// <summary>Makes proofs of the served app, and of other applications, one at a time, while the service goes on.</summary>
internal sealed class ProofDesk : IAsyncDisposable
{
    private readonly SiteHost _host;
    private readonly ProofMaker _maker;
    private readonly ProofHistory _history;
    private readonly Serilog.ILogger _logger;
    private readonly Lock _lock = new();
    private readonly CancellationTokenSource _ending = new();
    private Work? _work;

    public ProofDesk(SiteHost host, IChangeLog log, StateFolder state, Serilog.ILogger logger) =>
        (_host, _maker, _history, _logger) = (host, new ProofMaker(host, log, state), new ProofHistory(state), logger);

    /// <summary>Sets the address of the pages, when their port is known.</summary>
    public void PointTo(string pagesUrl) => _maker.PagesUrl = pagesUrl;

    /// <summary>The reports that are kept, the latest first.</summary>
    public IReadOnlyList<ProofSummary> Reports => _history.All;

    /// <summary>The proof that is being made; null if none is.</summary>
    public ProofProgress? Running
    {
        get
        {
            lock (_lock)
                return _work is { Task.IsCompleted: false } work
                    ? new ProofProgress(
                        work.Number,
                        work.Order.Means,
                        work.Subject,
                        work.Doing,
                        work.Done,
                        work.Most,
                        _host.Clock.GetElapsedTime(work.Begun).TotalSeconds,
                        work.Stopping.IsCancellationRequested
                    )
                    : null;
        }
    }

    /// <summary>Begins a proof. Gives what is in its way, and whether that is another proof; null for nothing.</summary>
    public (string Why, bool IsBusy)? Begin(ProofOrder order)
    {
        lock (_lock)
        {
            if (_work is { Task.IsCompleted: false })
                return ($"A {_work.Order.Means} is being made. Wait for it, or stop it.", true);
            if (_maker.Hinders(order) is { } why)
                return (why, false);
            _work?.Stopping.Dispose();
            var work = new Work(_history.Next, order, _maker.SubjectOf(order), _host.Clock.GetTimestamp());
            _work = work;
            work.Task = Task.Run(() => MakeAsync(work));
            return null;
        }
    }

    /// <summary>Asks the running proof to stop. Its report tells what it has seen so far.</summary>
    public void Stop()
    {
        lock (_lock)
            if (_work is { Task.IsCompleted: false } work)
                work.Stopping.Cancel();
    }

    /// <summary>A report, compared with the one before it; null if it is not kept.</summary>
    public ProofReport? Read(int number) => _history.Read(number);

    private async Task MakeAsync(Work work)
    {
        var started = _host.Clock.GetUtcNow();
        try
        {
            ProofReport report;
            try
            {
                report = await _maker.MakeAsync(work.Order, work.Tell, work.Stopping.Token, _ending.Token);
            }
            catch (Exception trouble) when (ProofMaker.IsExpected(trouble) && !_ending.IsCancellationRequested)
            {
                report = new ProofReport(
                    work.Order.Means,
                    work.Subject,
                    ReportWords.Version,
                    started,
                    _host.Clock.GetElapsedTime(work.Begun).TotalSeconds,
                    [],
                    [new ProofGap(work.Order.Means, trouble.Message)],
                    [],
                    null
                );
            }

            _history.Keep(work.Number, report);
        }
        catch (OperationCanceledException)
        {
            // The service ends; what was swept is marked, and can be gone on with.
        }
        catch (Exception fault)
        {
            _logger.Error(fault, "The {Means} of {Subject} failed", work.Order.Means, work.Subject);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        if (_work is { Task: { } task })
            await task;
        _ending.Dispose();
    }

    /// <summary>One proof, from its beginning to its end.</summary>
    private sealed class Work(int number, ProofOrder order, string subject, long begun)
    {
        private long _done;
        private volatile string _doing = "begins";

        public int Number => number;

        public ProofOrder Order => order;

        public string Subject => subject;

        public long Begun => begun;

        public CancellationTokenSource Stopping { get; } = new();

        public Task? Task { get; set; }

        public string Doing => _doing;

        public long Done => Interlocked.Read(ref _done);

        public long? Most { get; private set; }

        public void Tell(string doing, long done, long? most)
        {
            _doing = doing;
            Interlocked.Exchange(ref _done, done);
            Most = most;
        }
    }
}
