using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Service;

/// <summary>
/// What a running service holds besides its doors: the site, the latest visits, and what they showed. The site is replaced
/// whole; a visit goes on with the one it began with.
/// </summary>
public sealed class SiteHost(Site site, VisitRunner runner, RuntimeFindings runtimeFindings, TimeProvider clock)
{
    private volatile Site _site = site;
    private volatile IReadOnlyList<Finding> _findings = site.Findings;

    /// <summary>The site that new visits begin with.</summary>
    public Site Site => _site;

    /// <summary>Whether the app file has been changed since into something that makes no site.</summary>
    public bool IsBehind { get; private set; }

    public VisitRunner Runner { get; } = runner;

    public VisitLog Visits { get; } = new();

    public TimeProvider Clock { get; } = clock;

    /// <summary>What check finds in the app file as it is now, then what visits showed to be wrong with the data.</summary>
    public IReadOnlyList<Finding> Findings => [.. _findings, .. runtimeFindings.All];

    /// <summary>Takes a changed app file up: a site replaces the last one; without one the last good site stays.</summary>
    public void Take(Site? changed, IReadOnlyList<Finding> findings)
    {
        _findings = findings;
        IsBehind = changed is null;
        if (changed is null) return;
        _site = changed;
        runtimeFindings.Clear();
    }
}
