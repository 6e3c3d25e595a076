using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// A whole app, compiled: immutable, and ready to answer any address. A visit holds the site it began with; a changed app
/// file makes another site.
/// </summary>
/// <param name="NotFound">The app's own words for addresses that no page has; null for Jexa's.</param>
/// <param name="Media">The records' fields that name pictures in folders, or hold bytes.</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON, as browsers spell them.</param>
public sealed record Site(
    string File,
    PageFrame Frame,
    Page? Home,
    TextPage? NotFound,
    IReadOnlyList<Page> Pages,
    PathTree<Page> Paths,
    IReadOnlyList<MediaLookup> Media,
    IReadOnlySet<string> Origins,
    IReadOnlyList<Finding> Findings
)
{
    /// <summary>How the records that some page changes are changed, by their names.</summary>
    public IReadOnlyDictionary<string, ChangePlan> Changes { get; init; } = new Dictionary<string, ChangePlan>();

    /// <summary>The sources behind it, as they were found.</summary>
    public IReadOnlyList<SiteSource> Sources { get; init; } = [];

    /// <summary>
    /// Pages of the app file that cannot be served before their source has said what it holds: they are no part of
    /// <see cref="Pages"/>, but of <see cref="Paths"/>.
    /// </summary>
    public IReadOnlyList<string> Waiting { get; init; } = [];

    /// <summary>Those of the other origins whose scripts may change records by JSON.</summary>
    public IReadOnlySet<string> Writers { get; init; } = new HashSet<string>();

    /// <summary>The paths that pages had before.</summary>
    public IReadOnlyList<FormerPage> Former { get; init; } = [];

    /// <summary>Pages that links lead to and that the app file does not have yet, by their names.</summary>
    public IReadOnlyDictionary<string, UnwrittenPage> Unwritten { get; init; } = new Dictionary<string, UnwrittenPage>();

    public Page? Find(string name) => Pages.FirstOrDefault(page => page.Name == name);
}
