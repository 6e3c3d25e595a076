using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows on a terminal how far long work is, and how long it will take. Elsewhere nothing is shown.</summary>
internal static class WorkBar
{
    /// <param name="most">How much there is to do; null if nobody knows.</param>
    /// <param name="work">Says what it is doing, and how much is done.</param>
    public static async Task<T> RunAsync<T>(long? most, Func<Action<string, long>, Task<T>> work)
    {
        if (Terminal.Live() is not { } live)
            return await work((_, _) => { });
        return await live.Progress()
            .AutoClear(true)
            .Columns(new TaskDescriptionColumn(), new ProgressBarColumn(), new PercentageColumn(), new RemainingTimeColumn())
            .StartAsync(context =>
            {
                var task = context.AddTask("begins", maxValue: Math.Max(1, most ?? 1));
                task.IsIndeterminate = most is null;
                return work(
                    (what, done) =>
                    {
                        task.Description = Terminal.Escaped(what);
                        task.Value = Math.Min(done, task.MaxValue);
                    }
                );
            });
    }
}
