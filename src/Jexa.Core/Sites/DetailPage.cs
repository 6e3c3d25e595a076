using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Shows one record, by the ID in its address.</summary>
/// <param name="stored">Where the columns that lists are ordered by stand in a row, as they are stored.</param>
/// <param name="list">The list of the same records that can be opened by itself, if there is one.</param>
/// <param name="beside">The list that stands beside the record; null for none.</param>
public sealed class DetailPage(
    PageHead head,
    DetailShape shape,
    RecordLookup lookup,
    IReadOnlyDictionary<ColumnRef, int> stored,
    TrailPlan trail,
    IReadOnlyList<BlockPlan> blocks,
    IReadOnlyList<PageLink> links,
    PageHead? list,
    PageHead? missingPage,
    PageHead? beside
) : RecordPage(head, lookup, shape.Own, shape.Back, missingPage)
{
    public override string Kind => "detail";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public DetailShape Shape { get; } = shape;

    public override bool LacksPictures { get; } = shape.Fields.Any(column => column.Picture?.HasNoPlace == true);

    public IReadOnlyDictionary<ColumnRef, int> Stored { get; } = stored;

    public TrailPlan Trail { get; } = trail;

    public IReadOnlyList<BlockPlan> Blocks { get; } = blocks;

    public PageHead? List { get; } = list;

    public PageHead? Beside { get; } = beside;

    /// <summary>Whether nothing but the record needs to be loaded for somebody who comes from nowhere.</summary>
    public bool StandsAlone { get; } = blocks.Count == 0 && beside is null && (list is null || head.Definition.NeighboursHidden);
}

/// <summary>What stands beside a record: records tied to it, a list of its own, or a notice.</summary>
/// <param name="Query">Its rows, one more than shown, each ending with how many there are in all; null for a notice.</param>
/// <param name="Fillers">What of the record fills the query's arguments.</param>
/// <param name="All">The link to all of them, filled from the record; null where there is no such list.</param>
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

    /// <summary>The link to the page that makes one more; null where there is none.</summary>
    public LinkPlan? Add { get; init; }

    /// <summary>Rows shown where the app file does not say it.</summary>
    public const int UsualSize = 5;

    /// <summary>Counting stops here.</summary>
    public const int CountLimit = 10_000;
}

/// <summary>Shows a text of the app's own.</summary>
/// <param name="source">Markdown; <c>{parameter}</c> stands for what the address says.</param>
public sealed partial class TextPage(PageHead head, string title, string source) : Page(head)
{
    public override string Kind => "text";

    public override IReadOnlyList<PageLink> Links =>
        [
            .. Lists
                .SelectMany(group => group.Lists)
                .Select(list => new PageLink(
                    new LinkPlan(list.Name, ListIndex.NameOf(list), list.Head.Open!),
                    null,
                    LinkReason.Part
                )),
        ];

    /// <summary>The app's lists in groups, if the page is to show them. Filled once all pages are known.</summary>
    public IReadOnlyList<(string Title, IReadOnlyList<ListPage> Lists)> Lists { get; internal set; } = [];

    public string Title { get; } = title;

    public string Source { get; } = source;

    /// <summary>The names in the holes of a text: <c>{name}</c>, nothing but a name between braces.</summary>
    internal static IEnumerable<string> Holes(string text) => Hole().Matches(text).Select(match => match.Groups[1].Value);

    /// <summary>A text with its holes filled.</summary>
    public static string Fill(string text, Func<string, string> valueOf) =>
        Hole().Replace(text, match => valueOf(match.Groups[1].Value));

    [System.Text.RegularExpressions.GeneratedRegex(@"\{([A-Za-z_][A-Za-z0-9_]*)\}")]
    private static partial System.Text.RegularExpressions.Regex Hole();
}
