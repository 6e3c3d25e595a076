using Jexa.Core.Addresses;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// A compiled app: immutable, and ready to answer any address. A visit keeps the site that it began with. A changed app file
/// makes another site.
/// </summary>
/// <param name="NotFound">The app's own text for addresses without a page; null for Jexa's.</param>
/// <param name="Media">Fields that name pictures in folders, or hold bytes.</param>
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
    /// <summary>The record kinds that could be compiled, whether a page shows them or not.</summary>
    public IReadOnlyList<SiteRecord> Kinds { get; init; } = [];

    /// <summary>All records of the kinds that have pages, for a sweep.</summary>
    public IReadOnlyList<KindRows> KindRows => KindsCompiled.Value;

    /// <summary>Compiles them when the first sweep asks: serving needs none.</summary>
    internal Lazy<IReadOnlyList<KindRows>> KindsCompiled { get; init; } = new(() => []);

    /// <summary>How records are changed, by the name of the record kind.</summary>
    public IReadOnlyDictionary<string, ChangePlan> Changes { get; init; } = new Dictionary<string, ChangePlan>();

    /// <summary>Its sources, as they were found.</summary>
    public IReadOnlyList<SiteSource> Sources { get; init; } = [];

    /// <summary>
    /// Pages that cannot be served before their source has answered. They are in <see cref="Paths"/>, but not in <see
    /// cref="Pages"/>.
    /// </summary>
    public IReadOnlyList<string> Waiting { get; init; } = [];

    /// <summary>
    /// Pages whose table is not there yet. They are in <see cref="Paths"/>, but not in <see cref="Pages"/>.
    /// </summary>
    public IReadOnlyList<DesignedPage> Designed { get; init; } = [];

    /// <summary>The bodies of all pages that have one.</summary>
    public IEnumerable<PageBody> Bodies => Pages.Concat(Designed).Select(page => page.Body).OfType<PageBody>();

    /// <summary>Those of the other origins whose scripts may change records by JSON.</summary>
    public IReadOnlySet<string> Writers { get; init; } = new HashSet<string>();

    /// <summary>Fields for which forms take files.</summary>
    public IReadOnlyList<UploadLookup> Uploads { get; init; } = [];

    /// <summary>The former paths of pages.</summary>
    public IReadOnlyList<FormerPage> Former { get; init; } = [];

    /// <summary>Pages that links lead to and that the app file does not have yet, by name.</summary>
    public IReadOnlyDictionary<string, UnwrittenPage> Unwritten { get; init; } = new Dictionary<string, UnwrittenPage>();

    /// <summary>The full paths of the HTML files that were compiled with it, or looked for.</summary>
    public IReadOnlyCollection<string> Beside { get; init; } = [];

    /// <summary>The page of this name. Null if there is none.</summary>
    public Page? Find(string name) => Pages.FirstOrDefault(page => page.Name == name);
}
