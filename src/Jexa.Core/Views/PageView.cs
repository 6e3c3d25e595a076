using Jexa.Core.Addresses;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A link whose text and address are known: in the menu, on a message, the way back.</summary>
/// <param name="Page">The name of the page it leads to.</param>
public sealed record PlainLink(string Page, string Text, string Address);

/// <summary>What stands around every page of an app.</summary>
public sealed record PageFrame(string AppTitle, string HomeAddress, Mount Mount, IReadOnlyList<PlainLink> Menu);

/// <summary>
/// What a visit shows, before anybody decides how it looks: headings, typed cells, links, messages. HTML and JSON are two
/// writers of it.
/// </summary>
/// <param name="Page">The page's name; null where the visit met none.</param>
public abstract record PageView(PageFrame Frame, string? Page);

/// <summary>The part of a list that is the same for every visit.</summary>
/// <param name="RecordLink">The link to a record's own page, whose ID JSON carries; null where there is none.</param>
public sealed record ListShape(string Heading, string Address, IReadOnlyList<ViewColumn> Columns, string One, string Many, LinkPlan? RecordLink);

/// <summary>How many records a list has in all.</summary>
/// <param name="IsExact">False where counting stopped at its limit: there are more.</param>
public readonly record struct Total(long Count, bool IsExact);

/// <summary>Where the other windows of a list are; null where there is none that way.</summary>
public sealed record WindowLinks(string? First, string? Previous, string? Next, string? Last);

/// <param name="From">The number of the first row shown, from 1; null where nobody knows.</param>
/// <param name="CannotGoOn">There are more rows, but no address can carry the place where they go on.</param>
/// <param name="Notice">A sentence above the list, such as why the visitor was led here.</param>
public sealed record ListView(
    PageFrame Frame, string Page, ListShape Shape, RowBlock Rows, Total Total, long? From, WindowLinks Windows, bool CannotGoOn, string? Notice)
    : PageView(Frame, Page);

/// <summary>The part of a detail page that is the same for every visit.</summary>
public sealed record DetailShape(
    TextPlan Title, IReadOnlyList<ViewColumn> Fields, string One, LinkPlan Own, IReadOnlyList<LinkPlan> Links, PlainLink? Back);

public sealed record DetailView(PageFrame Frame, string Page, DetailShape Shape, Row Record) : PageView(Frame, Page);

/// <summary>An answer in words: what happened, what to do, where to go.</summary>
/// <param name="Outcome">The outcome's public word.</param>
/// <param name="Sentences">The first says what happened.</param>
/// <param name="Parameter">The parameter at fault, if one is.</param>
/// <param name="Expected">What an ID looks like, where that helps.</param>
public sealed record MessageView(
    PageFrame Frame, string? Page, string Outcome, int Status, string Heading, IReadOnlyList<string> Sentences,
    string? Parameter, string? Expected, IReadOnlyList<PlainLink> Links)
    : PageView(Frame, Page);
