using Jexa.Core.Proof;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows on a terminal how far a sweep is, and how long it will take.</summary>
/// <param name="about">About how many rows there are; null if nobody knows.</param>
internal sealed class SweepBar(long? about)
{
    public async Task<SweepResult> RunAsync(Func<Action<SweepProgress>, Task<SweepResult>> sweep)
    {
        if (Terminal.Live() is not { } live)
            return await sweep(_ => { });
        return await live.Progress()
            .AutoClear(true)
            .Columns(new TaskDescriptionColumn(), new ProgressBarColumn(), new PercentageColumn(), new RemainingTimeColumn())
            .StartAsync(context =>
            {
                var task = context.AddTask("sweep", maxValue: Math.Max(1, about ?? 1));
                task.IsIndeterminate = about is null;
                return sweep(progress =>
                {
                    task.Description = Terminal.Escaped($"{progress.Part}, {progress.Rows:N0} rows");
                    task.Value = Math.Min(progress.Rows, task.MaxValue);
                });
            });
    }
}
