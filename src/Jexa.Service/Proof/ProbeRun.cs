namespace Jexa.Service.Proof;

/// <summary>Probes pages one after the other, and makes the report.</summary>
/// <param name="file">The app file.</param>
/// <param name="pages">All pages of the service.</param>
/// <param name="asked">How they are probed.</param>
/// <param name="only">The pages that are probed; empty for all.</param>
public sealed class ProbeRun(
    string file,
    IReadOnlyList<ProbedPage> pages,
    ProbeInfo asked,
    IReadOnlySet<string> only,
    TimeProvider clock
)
{
    /// <summary>The pages that are probed.</summary>
    public IReadOnlyList<string> Names { get; } =
    [.. pages.Select(page => page.Name).Where(name => only.Count == 0 || only.Contains(name))];

    /// <param name="tell">Is told which page is probed, and how many were.</param>
    /// <param name="stop">Ends it before the next page; the report says so.</param>
    /// <exception cref="HttpRequestException">The service does not answer.</exception>
    public async Task<ProofReport> RunAsync(
        Probe probe,
        Action<string, long> tell,
        CancellationToken stop,
        CancellationToken cancellation
    )
    {
        var (started, begun) = (clock.GetUtcNow(), clock.GetTimestamp());
        var done = 0;
        foreach (var name in Names.TakeWhile(_ => !stop.IsCancellationRequested))
        {
            tell(name, done++);
            var cases = asked.Cases.Where(one => one.Page == name).ToList();
            await probe.PageAsync(cases, asked.Allows.GetValueOrDefault(name, ""), cancellation);
        }

        return ProbeReport.Of(
            probe,
            asked,
            pages,
            new ProbeSubject(file, started, clock.GetElapsedTime(begun).TotalSeconds, only) { Left = [.. Names.Skip(done)] }
        );
    }
}
