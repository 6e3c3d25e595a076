using Jexa.Core.Definitions;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A block beside a record: related records, another list, or a notice.</summary>
/// <param name="Query">Its rows, one more than is shown. Each ends with the number of all rows. Null for a notice.</param>
/// <param name="Fillers">The record's values for the query's arguments.</param>
/// <param name="All">The link to all of the records; null if there is no such list.</param>
public sealed record BlockPlan(
    BlockShape Shape,
    IPreparedQuery? Query,
    IReadOnlyList<LinkFiller> Fillers,
    int Size,
    LinkPlan? All
)
{
    /// <summary>Where the app file says by which fields it is tied; null if it is tied by a foreign key, or not at all.</summary>
    public Place? TiedAt { get; init; }

    /// <summary>What bodies call it.</summary>
    public string Name { get; init; } = "";

    /// <summary>The record kind of the block; null for a notice.</summary>
    public SiteRecord? Record { get; init; }

    /// <summary>All rows that it can show, on whatever record.</summary>
    public IReadOnlyList<RowSet> Rows { get; init; } = [];

    /// <summary>The link to the page that adds one of the records; null for none.</summary>
    public LinkPlan? Add { get; init; }

    /// <summary>The number of rows if the app file does not say it.</summary>
    public const int UsualSize = 5;

    /// <summary>The number of records to choose from if the app file does not say it.</summary>
    public const int ChoiceSize = 50;

    /// <summary>Counting stops at this number.</summary>
    public const int CountLimit = 10_000;
}
