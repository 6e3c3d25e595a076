using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Traces;
using Jexa.Core.Visits;
using Jexa.Service.Health;
using Jexa.Service.State;

namespace Jexa.Service.Hosting;

/// <summary>
/// What a running service has besides its doors: the site, the latest visits, and what they showed. The site is replaced as a
/// whole; a visit keeps the one that it began with.
/// </summary>
public sealed class SiteHost
{
    private readonly RuntimeFindings _runtimeFindings;
    private volatile Site _site;
    private volatile AppFileState _file;

    /// <param name="start">The compiled app file. It must have a site.</param>
    public SiteHost(Compilation start, VisitRunner runner, RuntimeFindings runtimeFindings, ChangeStore log, TimeProvider clock)
    {
        _site = start.Site ?? throw new ArgumentException("There is no site to begin with.", nameof(start));
        _file = Read(start, 1);
        ServesNothing = start.Bytes.IsEmpty;
        (Runner, _runtimeFindings, Clock) = (runner, runtimeFindings, clock);
        Sources = new SourceProbes(clock);
        Health = new VisitHealth(Sources, log, clock);
        Figures = new VisitFigures(clock);
    }

    /// <summary>The site that new visits begin with.</summary>
    public Site Site => _site;

    public AppFileState File => _file;

    /// <summary>Whether no app file was served yet.</summary>
    public bool ServesNothing { get; private set; }

    public VisitRunner Runner { get; }

    public VisitLog Visits { get; } = new();

    public TimeProvider Clock { get; }

    public SourceProbes Sources { get; }

    /// <summary>Whether pages can be read and changes be saved.</summary>
    internal VisitHealth Health { get; }

    /// <summary>Figures of the latest visits.</summary>
    internal VisitFigures Figures { get; }

    /// <summary>The findings in the present app file, then those that visits showed in the data.</summary>
    public IReadOnlyList<Finding> Findings =>
        [
            .. _file.Findings,
            .. new FindingSettings(_file.Definition?.Settings ?? []).Apply(_runtimeFindings.All, _file.Definition),
        ];

    /// <summary>
    /// Loads a changed app file. Its site replaces the last one. If it has none, or lacks pages whose source is away, the last
    /// good site stays.
    /// </summary>
    public void Take(Compilation changed)
    {
        var taken = changed.Site is { } site && (site.Waiting.Count == 0 || _site.Waiting.Count > 0) ? site : null;
        _file = Read(changed, _file.Revision + 1) with { Behind = taken is null };
        if (taken is null)
            return;
        (_site, ServesNothing) = (taken, false);
        _runtimeFindings.Clear();
    }

    /// <summary>The app file cannot be read any more.</summary>
    public void Lose(Finding why) => _file = new AppFileState(null, null, [why], true, _file.Revision + 1);

    private static AppFileState Read(Compilation compilation, int revision) =>
        new(
            Encoding.UTF8.GetString(compilation.Bytes.Span),
            compilation.Definition,
            compilation.Findings,
            compilation.Site is null,
            revision
        );
}
