using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows on a terminal which page is being probed.</summary>
internal sealed class ProbeBar(int pages)
{
    public async Task RunAsync(IEnumerable<string> names, Func<string, Task> probe)
    {
        if (Terminal.Live() is not { } live)
        {
            foreach (var name in names)
                await probe(name);
            return;
        }

        await live.Progress()
            .AutoClear(true)
            .Columns(new TaskDescriptionColumn(), new ProgressBarColumn(), new PercentageColumn(), new RemainingTimeColumn())
            .StartAsync(async context =>
            {
                var task = context.AddTask("probe", maxValue: pages);
                foreach (var name in names)
                {
                    task.Description = Terminal.Escaped(name);
                    await probe(name);
                    task.Increment(1);
                }
            });
    }
}
