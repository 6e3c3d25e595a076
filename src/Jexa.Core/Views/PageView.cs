using Jexa.Core.Addresses;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A link whose text and address are known: in the menu, on a message, the way back.</summary>
/// <param name="Page">The name of the page it leads to.</param>
public sealed record PlainLink(string Page, string Text, string Address);

/// <summary>What stands around every page of an app.</summary>
/// <param name="Addresses">The addresses of all pages that can be opened by themselves, by name: texts lead to them so.</param>
public sealed record PageFrame(
    string AppTitle,
    string HomeAddress,
    Mount Mount,
    IReadOnlyList<PlainLink> Menu,
    Conventions Conventions,
    FrameTexts Texts,
    IReadOnlyDictionary<string, string> Addresses
);

/// <summary>What the app itself puts around its pages.</summary>
/// <param name="Header">Markdown; empty for none.</param>
/// <param name="Logo">The whole path of a picture; null for none.</param>
/// <param name="Style">The whole path of a style sheet; null for none.</param>
/// <param name="PictureOrigins">Origins that pictures come from.</param>
public sealed record FrameTexts(string Header, string Footer, string? Logo, string? Style, IReadOnlyList<string> PictureOrigins)
{
    public static FrameTexts None { get; } = new("", "", null, null, []);
}

/// <summary>
/// What a visit shows, before anybody decides how it looks: headings, typed cells, links, messages. HTML and JSON are two
/// writers of it.
/// </summary>
/// <param name="Page">The page's name; null where the visit met none.</param>
public abstract record PageView(PageFrame Frame, string? Page)
{
    /// <summary>The records above, from the top.</summary>
    public IReadOnlyList<PlainLink> Trail { get; init; } = [];

    /// <summary>The list that stands beside a record, or beside the message that there is none.</summary>
    public ListView? Beside { get; init; }

    /// <summary>What has just been done, said once; null for nothing.</summary>
    public string? Said { get; init; }
}

/// <summary>What a list's records look like.</summary>
public enum ListLook
{
    Table,
    Cards,
    Bullets,
}

/// <summary>The part of a list that is the same for every visit.</summary>
/// <param name="RecordLink">The link to a record's own page, whose ID JSON carries; null where there is none.</param>
/// <param name="RowLink">The link that is the whole row's; null where there is none.</param>
/// <param name="Actions">Links that stand in a column of their own.</param>
/// <param name="Title">What one record is called: for cards and bullets, and for what a link has to say.</param>
public sealed record ListShape(
    string Heading,
    ListLook Look,
    IReadOnlyList<ViewColumn> Columns,
    string One,
    string Many,
    LinkPlan? RecordLink,
    LinkPlan? RowLink,
    IReadOnlyList<LinkPlan> Actions,
    TextPlan Title
);

/// <summary>How many records a list has in all.</summary>
/// <param name="IsExact">False where counting stopped at its limit: there are more.</param>
public readonly record struct Total(long Count, bool IsExact)
{
    /// <summary>What a count that stops behind a limit says.</summary>
    public static Total Of(long count, long limit) => new(Math.Min(count, limit), count <= limit);
}

/// <summary>Where the other windows of a list are; null where there is none that way.</summary>
public sealed record WindowLinks(string? First, string? Previous, string? Next, string? Last);

/// <summary>The address that orders a list by a column.</summary>
/// <param name="Name">The column's name in addresses.</param>
/// <param name="Now">How the list is ordered by it now: 1 rising, -1 falling, 0 not.</param>
/// <param name="Turned">The address that orders by it, turned round where it is ordered so already.</param>
public sealed record OrderLink(string Name, string Label, int Now, string Turned);

/// <summary>What a visitor can ask of a list, and what is asked now.</summary>
/// <param name="Action">The list's own address, without any control.</param>
/// <param name="Kept">The parameters that stay whatever is asked.</param>
/// <param name="Find">What is searched for; null where the list cannot be searched.</param>
/// <param name="Order">The order asked for, as an address says it; empty for the list's own.</param>
/// <param name="IsNarrowed">Whether a search or an optional filter leaves records out.</param>
/// <param name="IsPlain">Nothing is asked: the same object stands on every such page of the list.</param>
public sealed record ListControls(
    string Action,
    IReadOnlyList<(string Name, string Value)> Kept,
    string? Find,
    IReadOnlyList<OrderLink> Orders,
    string Order,
    IReadOnlyList<int> Sizes,
    int Size,
    int OwnSize,
    bool IsNarrowed,
    bool IsPlain
);

/// <summary>One value of a side list.</summary>
/// <param name="Address">Null where no address can carry the value.</param>
public sealed record SideEntry(string Text, string? Address, long Count, bool IsCurrent);

/// <summary>A side list.</summary>
/// <param name="All">The list without this choice; null where there is none.</param>
/// <param name="IsExact">Whether the counts are those of this moment.</param>
/// <param name="HasFailed">It could not be made; the rest of the page is as it should be.</param>
public sealed record SideView(
    string Title,
    IReadOnlyList<SideEntry> Entries,
    PlainLink? All,
    bool IsWhole,
    bool IsExact,
    bool HasFailed
)
{
    /// <summary>It takes so long to count that the page did not wait for it.</summary>
    public bool IsBeingCounted { get; init; }
}

/// <param name="From">The number of the first row shown, from 1; null where nobody knows.</param>
/// <param name="CannotGoOn">There are more rows, but no address can carry the place where they go on.</param>
/// <param name="Notice">A sentence above the list, such as why the visitor was led here.</param>
public sealed record ListView(
    PageFrame Frame,
    string Page,
    ListShape Shape,
    string Heading,
    RowBlock Rows,
    Total Total,
    long? From,
    WindowLinks Windows,
    bool CannotGoOn,
    string? Notice,
    ListControls Controls,
    IReadOnlyList<SideView> Sides
) : PageView(Frame, Page)
{
    /// <summary>
    /// What links to the list's own records carry so that they lead back here, behind <c>from=</c>; empty where a bare address
    /// does.
    /// </summary>
    public string FromMark { get; init; } = "";

    /// <summary>The way to a new record; null where there is none.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>The row whose record is shown beside the list; -1 for none.</summary>
    public int CurrentRow { get; init; } = -1;
}

/// <summary>The part of a detail page that is the same for every visit.</summary>
public sealed record DetailShape(
    TextPlan Title,
    IReadOnlyList<ViewColumn> Fields,
    string One,
    LinkPlan Own,
    IReadOnlyList<LinkPlan> Links,
    PlainLink? Back
);

/// <param name="Back">The list the visitor came from, at the place they left it; else the record's own list.</param>
/// <param name="Previous">The record before this one in that list.</param>
public sealed record DetailView(
    PageFrame Frame,
    string Page,
    DetailShape Shape,
    Row Record,
    PlainLink? Back,
    PlainLink? Previous,
    PlainLink? Next,
    IReadOnlyList<BlockView> Blocks
) : PageView(Frame, Page)
{
    /// <summary>The records before and behind could not be found in time.</summary>
    public bool NeighboursLeftOut { get; init; }
}

/// <summary>The part of a block that is the same for every visit.</summary>
/// <param name="Rows">What its rows look like; null for a notice.</param>
/// <param name="Notice">Markdown; null for records.</param>
public sealed record BlockShape(string Name, string Title, ListShape? Rows, string? Notice);

/// <param name="Rows">Null where there is a notice, or the block could not be made.</param>
/// <param name="All">The list of all of them; null where there is none.</param>
public sealed record BlockView(BlockShape Shape, RowBlock? Rows, Total Total, PlainLink? All, bool HasFailed)
{
    /// <summary>The page that makes one more of the records.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>It could not be made because it takes too long.</summary>
    public bool IsLate { get; init; }
}

/// <summary>A text of the app's own.</summary>
/// <param name="Markdown">With its parameters filled in.</param>
public sealed record TextView(PageFrame Frame, string Page, string Heading, string Markdown) : PageView(Frame, Page)
{
    /// <summary>The lists of the app; null on a page that does not show them.</summary>
    public ListIndexView? Lists { get; init; }
}

/// <summary>The lists of an app, or those that were looked for.</summary>
/// <param name="Action">Where the search is sent.</param>
/// <param name="Find">What was looked for; empty for nothing.</param>
public sealed record ListIndexView(string Action, string Find, IReadOnlyList<ListGroup> Groups);

public sealed record ListGroup(string Title, IReadOnlyList<ListEntry> Lists);

/// <param name="Total">Null if it was not counted in time, or cannot be.</param>
public sealed record ListEntry(PlainLink Link, Total? Total);

/// <summary>An answer in words: what happened, what to do, where to go.</summary>
/// <param name="Outcome">The outcome's public word.</param>
/// <param name="Sentences">The first says what happened.</param>
/// <param name="Parameter">The parameter at fault, if one is.</param>
/// <param name="Expected">What an ID looks like, where that helps.</param>
public sealed record MessageView(
    PageFrame Frame,
    string? Page,
    string Outcome,
    int Status,
    string Heading,
    IReadOnlyList<string> Sentences,
    string? Parameter,
    string? Expected,
    IReadOnlyList<PlainLink> Links
) : PageView(Frame, Page)
{
    /// <summary>The app's own words in their stead, in Markdown; null where it has none.</summary>
    public string? Markdown { get; init; }

    /// <summary>What the visitor typed and could not be saved: label and text.</summary>
    public IReadOnlyList<(string Label, string Text)> Typed { get; init; } = [];
}
