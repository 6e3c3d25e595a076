using System.Collections.Concurrent;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Shows the records of a kind, a window at a time.</summary>
/// <param name="parents">The records that its parameters name: each must be there.</param>
/// <param name="all">The list of all these records; null where there is none that can be opened by itself.</param>
public sealed class ListPage(
    PageHead head,
    ListShape shape,
    ListPlan plan,
    HeadingPlan heading,
    IReadOnlyList<ParentPlan> parents,
    IReadOnlyList<SidePlan> sides,
    int size,
    IReadOnlyList<PageLink> links,
    PageHead? all
) : Page(head)
{
    /// <summary>Rows in one window where neither the app file nor the address says it.</summary>
    public const int WindowSize = 50;

    private static readonly int[] UsualSizes = [20, 50, 100, 200];

    private readonly ConcurrentDictionary<DetailPage, NeighbourPlan> _neighbours = [];

    /// <summary>
    /// The page that makes a new record, and which of the list's parameters fill its own (-1 for none); null where there is none.
    /// </summary>
    public AddPlan? Add { get; init; }

    public override string Kind => "list";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public ListShape Shape { get; } = shape;

    public override bool LacksPictures { get; } = shape.Columns.Any(column => column.Picture?.HasNoPlace == true);

    public ListPlan Plan { get; } = plan;

    public HeadingPlan Heading { get; } = heading;

    public IReadOnlyList<ParentPlan> Parents { get; } = parents;

    public IReadOnlyList<SidePlan> Sides { get; } = sides;

    /// <summary>Whether records lead back to this list where nothing says from which list a visitor comes.</summary>
    public bool IsOwnList => all?.Name == Name;

    /// <summary>The list of all these records, where this is another one.</summary>
    public PageHead? AllOfThem => IsOwnList ? null : all;

    /// <summary>
    /// The page that a visitor is led to who lacks a parameter: the one that is written, else the list of all these records; null
    /// for none.
    /// </summary>
    public PageHead? MissingPage { get; init; }

    /// <summary>Rows in one window where the address does not say it.</summary>
    public int Size { get; } = size;

    /// <summary>The sizes that an address can ask for.</summary>
    public IReadOnlyList<int> Sizes { get; } = [.. UsualSizes.Append(size).Distinct().Order()];

    /// <summary>How the neighbours of a record are read in this list.</summary>
    public NeighbourPlan NeighboursOn(DetailPage page) => _neighbours.GetOrAdd(page, key => NeighbourPlan.Of(key, Plan));
}

/// <summary>How a list leads to a new record.</summary>
/// <param name="From">For each parameter of the page, the number of the list's own that fills it; -1 for none.</param>
public sealed record AddPlan(PageHead Page, string Text, IReadOnlyList<int> From);

/// <summary>How one record is found by what an address says, and how near what was found is to what was asked for.</summary>
/// <param name="Load">At most two rows; each ends with whether it is visible where the record has conditions for that.</param>
/// <param name="Keys">How each part of the key is read and compared.</param>
/// <param name="Ordinals">Where the parts of the key are in a row.</param>
/// <param name="FlagOrdinal">Where a row says whether it is visible; -1 where every row is.</param>
public sealed record RecordLookup(IPreparedQuery Load, IReadOnlyList<KeyType> Keys, IReadOnlyList<int> Ordinals, int FlagOrdinal);

/// <summary>A record that a list's parameters name: what is listed belongs to it.</summary>
/// <param name="Parameters">The parameters that make its key, in the order of the lookup's keys.</param>
/// <param name="Trail">What stands above it, and it itself last.</param>
public sealed record ParentPlan(
    SiteRecord Record,
    IReadOnlyList<int> Parameters,
    RecordLookup Lookup,
    TextPlan Label,
    TrailPlan Trail
);

/// <summary>A heading with parameters in it.</summary>
/// <param name="Pieces">In order; empty where the heading is always the fallback.</param>
/// <param name="Fallback">Said where a parameter of it is absent.</param>
public sealed record HeadingPlan(IReadOnlyList<HeadingPiece> Pieces, string Fallback);

/// <summary>A literal, or what a parameter stands for.</summary>
/// <param name="Parent">The parent whose label it is; -1 for the parameter's own value.</param>
/// <param name="Field">How the value is shown.</param>
public readonly record struct HeadingPiece(string? Literal, int Parameter, int Parent, SiteField? Field, KeyType? Key);

/// <summary>The records above a row, from the top.</summary>
/// <param name="Root">The list it begins with; null for none.</param>
public sealed record TrailPlan(PlainLink? Root, IReadOnlyList<TrailStep> Steps)
{
    public static TrailPlan None { get; } = new(null, []);
}

/// <param name="Presence">A column of the record that is never empty where it is there and visible.</param>
public sealed record TrailStep(TextPlan Label, int Presence, LinkPlan? Link);
