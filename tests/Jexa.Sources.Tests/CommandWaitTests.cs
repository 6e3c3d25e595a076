using Jexa.Sources.Sql;

namespace Jexa.Sources.Tests;

/// <summary>The wait for a server's command: whichever ends it, it ends once, and never the command after it.</summary>
public class CommandWaitTests
{
    private static readonly TimeSpan Long = TimeSpan.FromMinutes(5);

    [Fact]
    public async Task One_wait_serves_command_after_command()
    {
        var ended = 0;
        using var wait = New(Long, () => ended++);
        for (var i = 0; i < 1000; i++)
        {
            using var visitor = new CancellationTokenSource();
            var waiting = wait.BeginAsync(visitor.Token);
            Assert.False(waiting.IsCompleted);
            var fails = i % 3 == 0;
            if (i % 2 == 0)
                wait.End(fails ? new IOException($"{i}") : null);
            else
                _ = Task.Run(() => wait.End(fails ? new IOException($"{i}") : null), CancellationToken.None);
            if (fails)
                Assert.Equal($"{i}", (await Assert.ThrowsAsync<IOException>(async () => await waiting)).Message);
            else
                await waiting;
            Assert.Equal(i + 1, ended);
        }

        Assert.False(wait.IsAbandoned);
    }

    [Fact]
    public async Task A_visitor_who_leaves_does_not_wait_for_the_command()
    {
        var ended = 0;
        using var wait = New(Long, () => ended++);
        using var visitor = new CancellationTokenSource();
        var waiting = wait.BeginAsync(visitor.Token);
        await visitor.CancelAsync();
        var left = await Assert.ThrowsAnyAsync<OperationCanceledException>(async () => await waiting);
        Assert.Equal((visitor.Token, 1, true), (left.CancellationToken, ended, wait.IsAbandoned));

        // The command itself comes to its end later, and nobody hears of it.
        wait.End(null);
        Assert.Equal(1, ended);
    }

    [Fact]
    public async Task Whoever_leaves_once_a_command_has_ended_does_not_end_the_next_one()
    {
        using var first = new CancellationTokenSource();
        Task? next = null;
        CommandWait? wait = null;

        // As soon as the caller has its result, another one goes on with the connection; and then the first visitor leaves.
        wait = new CommandWait(
            Long,
            TimeProvider.System,
            () => new TimeoutException(),
            () =>
            {
                if (next is not null)
                    return;
                next = wait!.BeginAsync(CancellationToken.None).AsTask();
                first.Cancel();
            }
        );
        using (wait)
        {
            var waiting = wait.BeginAsync(first.Token);
            wait.End(null);
            await waiting;
            Assert.False(wait.IsAbandoned);
            Assert.False(next!.IsCompleted);
            wait.End(null);
            await next;
        }
    }

    [Fact]
    public async Task A_command_ends_at_the_time_limit_counted_from_its_own_beginning()
    {
        var limit = TimeSpan.FromMilliseconds(400);
        using var wait = New(limit, () => { });

        // The timer is set by the first of these and not set back by them.
        for (var i = 0; i < 3; i++)
        {
            var quick = wait.BeginAsync(CancellationToken.None);
            await Task.Delay(limit / 4);
            wait.End(null);
            await quick;
        }

        var began = Environment.TickCount64;
        var slow = wait.BeginAsync(CancellationToken.None);
        await Assert.ThrowsAsync<TimeoutException>(async () => await slow);
        Assert.InRange(Environment.TickCount64 - began, limit.TotalMilliseconds - 20, 20_000);
        Assert.True(wait.IsAbandoned);
        Assert.True(wait.IsLate);
    }

    [Fact]
    public async Task Ending_leaving_and_the_time_limit_at_once_end_it_once()
    {
        for (var i = 0; i < 300; i++)
        {
            var ended = 0;
            using var wait = New(TimeSpan.FromMilliseconds(2), () => Interlocked.Increment(ref ended));
            using var visitor = new CancellationTokenSource();
            var waiting = wait.BeginAsync(visitor.Token);
            var leaving = Task.Run(() =>
            {
                Thread.SpinWait(i * 200);
                visitor.Cancel();
            });
            Thread.SpinWait(i * 200);
            wait.End(null);
            var outcome = await Record.ExceptionAsync(async () => await waiting);
            await leaving;
            Assert.True(outcome is null or OperationCanceledException or TimeoutException, $"{outcome}");
            Assert.Equal((1, outcome is not null), (ended, wait.IsAbandoned));
        }
    }

    private static CommandWait New(TimeSpan limit, Action ended) =>
        new(limit, TimeProvider.System, () => new TimeoutException(), ended);
}
