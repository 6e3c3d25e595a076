using Jexa.Core.Definitions;
using Jexa.Core.Proof;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Service.Media;

namespace Jexa.Service.Proof;

/// <summary>Sweeps the data of an app, and makes the report.</summary>
/// <param name="stop">Ends it early; the report says so, and another sweep can go on.</param>
public sealed class SweepRun(Site site, AppDefinition definition, SweepLimits limits, TimeProvider clock, CancellationToken stop)
{
    private readonly Sweep _sweep = new(site, definition, limits, FolderFiles.Has, clock) { Stop = stop };

    /// <summary>About how many rows there are to read.</summary>
    public Task<long> CountAsync(CancellationToken cancellation) => _sweep.CountAsync(cancellation);

    /// <summary>Reads everything.</summary>
    /// <param name="pages">Asks the running service for the records that the limits want; null for none.</param>
    /// <param name="marks">Keeps how far it has come; null for nowhere.</param>
    /// <param name="tell">Is told what is read, and how much was.</param>
    public async Task<ProofReport> RunAsync(
        SweepMarkFile? marks,
        bool resume,
        HttpClient? pages,
        Action<string, long> tell,
        CancellationToken cancellation
    )
    {
        var (started, begun) = (clock.GetUtcNow(), clock.GetTimestamp());
        var from = (resume ? marks?.Read() : null) ?? SweepMark.Start;
        var result = await _sweep.RunAsync(
            from,
            progress => tell($"{progress.Part}, {progress.Rows:N0} rows", progress.Rows),
            mark => marks?.Save(mark),
            cancellation
        );
        if (result.NotRead.Count == 0)
            marks?.Remove();
        var faults = new FaultList(limits.Examples);
        var (fetched, gap) = pages is null ? (0, null) : await FetchAsync(result.Sample, pages, faults, tell, cancellation);
        var isWhole = result.NotRead.Count == 0 && limits.Only.Count == 0;
        return new ProofReport(
            "sweep",
            definition.File,
            ReportWords.Version,
            started,
            clock.GetElapsedTime(begun).TotalSeconds,
            [
                new ProofFigure("records", Rows(result, isPage: false)),
                new ProofFigure("rows on pages", Rows(result, isPage: true)),
                new ProofFigure("links built and read back", result.Links),
                new ProofFigure("records looked for", result.Lookups),
                .. pages is null ? [] : new[] { new ProofFigure("records asked for", fetched) },
            ],
            [
                .. result.NotRead.Select(part => new ProofGap(part.Part, part.Why, part.IsChosen)),
                .. gap is null ? [] : new[] { gap },
            ],
            Findings([.. result.Faults, .. faults.All], isWhole),
            null
        )
        {
            Parts = [.. result.Parts.Select(part => new ProofFigure(part.Part, part.Rows))],
        };
    }

    private static long Rows(SweepResult result, bool isPage) =>
        result
            .Parts.Where(part => part.Part.StartsWith(SweepPart.OfPage, StringComparison.Ordinal) == isPage)
            .Sum(part => part.Rows);

    private async Task<(int Fetched, ProofGap? Gap)> FetchAsync(
        IReadOnlyList<SampledRecord> sample,
        HttpClient pages,
        FaultList faults,
        Action<string, long> tell,
        CancellationToken cancellation
    )
    {
        var fetch = new RowFetch(pages, site.Frame.Mount.Text, faults);
        try
        {
            foreach (var record in sample)
            {
                tell($"asks for {record.Page.Name} {record.Key}", long.MaxValue);
                await fetch.CompareAsync(record, cancellation);
            }
        }
        catch (Exception gone)
            when (gone is HttpRequestException or SourceException or System.Text.Json.JsonException
                || (gone is TaskCanceledException && !cancellation.IsCancellationRequested)
            )
        {
            return (fetch.Compared, new ProofGap("service", $"{pages.BaseAddress}: {gone.Message}"));
        }

        return (fetch.Compared, null);
    }

    /// <summary>The faults with the severities of the app file.</summary>
    /// <param name="isWhole">Whether everything was read, so that what was not met is not there.</param>
    private List<ProofFinding> Findings(IReadOnlyList<Fault> faults, bool isWhole)
    {
        var settings = new FindingSettings(definition.Settings);
        var findings = new List<ProofFinding>();
        foreach (var fault in faults)
            if (settings.Of(fault.Code, definition.PageAt(fault.At), definition.RecordAt(fault.At), fault.About) is { } code)
                findings.Add(FindingReport.Of(fault with { Code = code }, definition));
        if (isWhole)
            findings.AddRange(settings.Unused(ProofCodes.IsMetBySweep).Select(one => FindingReport.Of(one, definition)));
        return findings;
    }
}
