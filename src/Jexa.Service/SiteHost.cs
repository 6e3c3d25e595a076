using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Service;

/// <summary>What a running service holds besides its doors: the site, the latest visits, and what they showed.</summary>
public sealed class SiteHost(Site site, VisitRunner runner, RuntimeFindings runtimeFindings, TimeProvider clock)
{
    /// <summary>The site that new visits begin with.</summary>
    public Site Site { get; } = site;

    public VisitRunner Runner { get; } = runner;

    public VisitLog Visits { get; } = new();

    public TimeProvider Clock { get; } = clock;

    /// <summary>What check found in the app file, then what visits showed to be wrong with the data.</summary>
    public IReadOnlyList<Finding> Findings => [.. Site.Findings, .. runtimeFindings.All];
}
