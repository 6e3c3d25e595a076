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
/// What a running service holds besides its doors: the site, the latest visits, and what they showed. The site is replaced
/// whole; a visit goes on with the one it began with.
/// </summary>
public sealed class SiteHost
{
    private readonly RuntimeFindings _runtimeFindings;
    private volatile Site _site;
    private volatile AppFileState _file;

    /// <param name="start">What the app file made at start: there must be a site.</param>
    public SiteHost(Compilation start, VisitRunner runner, RuntimeFindings runtimeFindings, ChangeStore log, TimeProvider clock)
    {
        _site = start.Site ?? throw new ArgumentException("There is no site to begin with.", nameof(start));
        _file = Read(start, 1);
        (Runner, _runtimeFindings, Clock) = (runner, runtimeFindings, clock);
        Sources = new SourceProbes(clock);
        Health = new VisitHealth(Sources, log, clock);
    }

    /// <summary>The site that new visits begin with.</summary>
    public Site Site => _site;

    public AppFileState File => _file;

    public VisitRunner Runner { get; }

    public VisitLog Visits { get; } = new();

    public TimeProvider Clock { get; }

    public SourceProbes Sources { get; }

    /// <summary>Whether pages can be read and changes be saved.</summary>
    internal VisitHealth Health { get; }

    /// <summary>What check finds in the app file as it is now, then what visits showed to be wrong with the data.</summary>
    public IReadOnlyList<Finding> Findings => [.. _file.Findings, .. _runtimeFindings.All];

    /// <summary>
    /// Takes a changed app file up: a site replaces the last one; without one, or with one that lacks pages, the last good site
    /// stays.
    /// </summary>
    public void Take(Compilation changed)
    {
        var taken = changed.Site is { } site && (site.Waiting.Count == 0 || _site.Waiting.Count > 0) ? site : null;
        _file = Read(changed, _file.Revision + 1) with { Behind = taken is null };
        if (taken is null)
            return;
        _site = taken;
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
