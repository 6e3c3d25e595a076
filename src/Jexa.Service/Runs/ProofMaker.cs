using System.Text;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Proof;
using Jexa.Core.Sources;
using Jexa.Service.Audit;
using Jexa.Service.Hosting;
using Jexa.Service.Proof;
using Jexa.Service.State;
using Jexa.Service.Traces;

namespace Jexa.Service.Runs;

/// <summary>Makes one proof of what a service serves: the same as the command of that name does, with its usual limits.</summary>
internal sealed class ProofMaker(SiteHost host, IChangeLog log, StateFolder state)
{
    private const int UsualRequests = 50;

    /// <summary>The address of this service's pages.</summary>
    public string PagesUrl { get; set; } = "";

    /// <summary>What it is made of.</summary>
    public string SubjectOf(ProofOrder order) => order.Means == "audit" ? new Uri(order.Url!).AbsoluteUri : host.Site.File;

    /// <summary>Why an order cannot be carried out; null if it can.</summary>
    public string? Hinders(ProofOrder order)
    {
        if (order.Means is not ("check" or "sweep" or "probe" or "audit"))
            return $"There is no proof “{order.Means}”. There is check, sweep, probe and audit.";
        if (order.Rate is < 1 || order.Seconds is < 1 || order.Fetch is < 0 || order.Records is < 1)
            return "rate, seconds, fetch and records must be whole numbers above zero.";
        if (order.Url is { } url && !TextLinks.IsWebAddress(url))
            return $"“{url}” is not a web address.";
        if (order.Means == "audit")
            return order.Url is null ? "An audit needs url: the address of a list."
                : order.Headers?.FirstOrDefault(header => !AuditLimits.IsHeader(header)) is { } header
                    ? $"A header must be NAME: VALUE, not “{header}”."
                : null;
        if (host.ServesNothing)
            return "There is no app file yet.";
        if (order.Means != "check" && (host.File.Behind || host.File.Definition is null))
            return $"{host.Site.File} makes no site as it is now. Correct what check finds first.";
        var names = host
            .Site.Pages.Select(page => page.Name)
            .Concat((host.File.Definition?.Records ?? []).Select(record => record.Name.Value))
            .ToList();
        return order.Only?.FirstOrDefault(name => !names.Contains(name)) is { } unknown
            ? $"There is no page and no record “{unknown}”."
                + (Nearest.To(unknown, names) is { } near ? $" Do you mean {near}?" : "")
            : null;
    }

    /// <summary>Whether a proof can end by such a fault, so that its report tells of it.</summary>
    public static bool IsExpected(Exception fault) =>
        fault is SourceException or HttpRequestException or IOException or UnauthorizedAccessException or TaskCanceledException;

    /// <param name="tell">Is told what is looked at, how much was, and how much there is.</param>
    /// <param name="stop">Ends it early; the report says so.</param>
    public async Task<ProofReport> MakeAsync(
        ProofOrder order,
        Action<string, long, long?> tell,
        CancellationToken stop,
        CancellationToken cancellation
    ) =>
        order.Means switch
        {
            "check" => Check(),
            "sweep" => await SweepAsync(order, tell, stop, cancellation),
            "probe" => await ProbeAsync(order, tell, stop, cancellation),
            _ => await AuditAsync(order, tell, stop, cancellation),
        };

    private ProofReport Check()
    {
        var begun = host.Clock.GetTimestamp();
        var definition = host.File.Definition;
        var findings = definition is null ? host.Findings : [.. host.Findings.Select(definition.InAppFile)];
        return CheckReport.Of(
            host.Site.File,
            definition,
            host.Site,
            findings,
            host.Site.Waiting.Count > 0,
            (host.Clock.GetUtcNow(), host.Clock.GetElapsedTime(begun))
        );
    }

    private async Task<ProofReport> SweepAsync(
        ProofOrder order,
        Action<string, long, long?> tell,
        CancellationToken stop,
        CancellationToken cancellation
    )
    {
        var limits = new SweepLimits().At(order.Rate) with
        {
            Only = (order.Only ?? []).ToHashSet(),
            Within = order.Seconds is { } seconds ? TimeSpan.FromSeconds(seconds) : null,
            Fetch = order.Fetch ?? 0,
        };
        var (site, file) = (host.Site, host.File);
        using var marks = SweepMarkFile.Open(
            Path.Combine(state.Path, "sweeps"),
            site.File,
            Encoding.UTF8.GetBytes(file.Text ?? ""),
            limits.Settings,
            host.Clock
        );
        var run = new SweepRun(site, file.Definition!, limits, host.Clock, stop);
        var most = await run.CountAsync(cancellation);
        using var pages = limits.Fetch > 0 ? PageVisitor.At(order.Url ?? PagesUrl) : null;
        return await run.RunAsync(
            marks,
            order.Resume,
            pages,
            (doing, done) => tell(doing, Math.Min(done, most), most),
            cancellation
        );
    }

    private async Task<ProofReport> ProbeAsync(
        ProofOrder order,
        Action<string, long, long?> tell,
        CancellationToken stop,
        CancellationToken cancellation
    )
    {
        var site = host.Site;
        var asked = await ProbeQuestions.OfAsync(host, log, null, cancellation);
        var run = new ProbeRun(
            site.File,
            [.. site.Pages.Select(page => new ProbedPage(page.Name, page.Record?.Name ?? "", page.Head.Definition.Name.At.Line))],
            asked,
            (order.Only ?? []).ToHashSet(),
            host.Clock
        );
        using var http = PageVisitor.At(order.Url ?? PagesUrl);
        var probe = new Probe(http, asked.Below, WhyAsync, TimeSpan.FromSeconds(1.0 / (order.Rate ?? UsualRequests)));
        return await run.RunAsync(probe, (doing, done) => tell(doing, done, run.Names.Count), stop, cancellation);
    }

    /// <summary>What this service says of a visit.</summary>
    private Task<string?> WhyAsync(string visit) =>
        Task.FromResult(
            long.TryParse(visit, out var number) && host.Visits.Read(number, TraceReport.Of) is { } trace ? trace.Short : null
        );

    private async Task<ProofReport> AuditAsync(
        ProofOrder order,
        Action<string, long, long?> tell,
        CancellationToken stop,
        CancellationToken cancellation
    )
    {
        var usual = new AuditLimits();
        var limits = usual with
        {
            Records = order.Records ?? usual.Records,
            Pause = order.Rate is { } rate ? TimeSpan.FromSeconds(1.0 / rate) : usual.Pause,
            Within = order.Seconds is { } seconds ? TimeSpan.FromSeconds(seconds) : usual.Within,
            Headers = [.. (order.Headers ?? []).Select(AuditLimits.HeaderOf)],
        };
        return await AuditRun.OfAsync(
            new Uri(order.Url!),
            limits,
            host.Clock,
            (doing, done) => tell(doing, done, limits.Requests),
            stop,
            cancellation
        );
    }
}
