using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>What stands beside a record: records tied to it, a list of its own, or a notice.</summary>
/// <param name="Query">Its rows, one more than shown, each ending with how many there are in all; null for a notice.</param>
/// <param name="Fillers">What of the record fills the query's arguments.</param>
/// <param name="All">The link to all of them, filled from the record; null if there is no such list.</param>
public sealed record BlockPlan(
    BlockShape Shape,
    IPreparedQuery? Query,
    IReadOnlyList<LinkFiller> Fillers,
    int Size,
    LinkPlan? All
)
{
    /// <summary>What its records are; null for a notice.</summary>
    public SiteRecord? Record { get; init; }

    /// <summary>The link to the page that makes one more; null if there is none.</summary>
    public LinkPlan? Add { get; init; }

    /// <summary>Rows shown where the app file does not say it.</summary>
    public const int UsualSize = 5;

    /// <summary>Counting stops here.</summary>
    public const int CountLimit = 10_000;
}
