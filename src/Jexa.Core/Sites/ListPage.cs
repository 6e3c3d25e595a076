using System.Collections.Concurrent;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Shows records of a kind, one window at a time.</summary>
/// <param name="parents">The records that its parameters name. Each must exist.</param>
/// <param name="all">The list of all these records that needs no parameter; null for none.</param>
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
    /// <summary>Rows in one window, if neither the app file nor the address says it.</summary>
    public const int WindowSize = 50;

    private static readonly int[] UsualSizes = [20, 50, 100, 200];

    private readonly ConcurrentDictionary<DetailPage, NeighbourPlan> _neighbours = [];

    /// <summary>
    /// The page that adds a record, and the list's parameters that fill its own (-1 for none); null if there is no such page.
    /// </summary>
    public AddPlan? Add { get; init; }

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links { get; } = links;

    /// <summary>The fields, as columns of the query.</summary>
    public ListShape Shape { get; } = shape;

    /// <inheritdoc/>
    public override bool LacksPictures { get; } = shape.Columns.Any(column => column.Picture?.HasNoPlace == true);

    /// <summary>Orders, search, filters and windows of the list.</summary>
    public ListPlan Plan { get; } = plan;

    /// <summary>The title, which may depend on parameters.</summary>
    public HeadingPlan Heading { get; } = heading;

    /// <summary>The records that the list's parameters name, such as the bridge of <c>/bridges/7/inspections</c>.</summary>
    public IReadOnlyList<ParentPlan> Parents { get; } = parents;

    /// <summary>The side lists, in order.</summary>
    public IReadOnlyList<SidePlan> Sides { get; } = sides;

    /// <summary>Whether records lead back to this list if nothing says which list the visitor comes from.</summary>
    public bool IsOwnList => all?.Name == Name;

    /// <summary>The list of all these records, if it is another one.</summary>
    public PageHead? AllOfThem => IsOwnList ? null : all;

    /// <summary>
    /// The page to redirect people to if a parameter is missing: the one in the app file, else the list of all these records;
    /// null for none.
    /// </summary>
    public PageHead? MissingPage { get; init; }

    /// <summary>Rows in one window, if the address does not say it.</summary>
    public int Size { get; } = size;

    /// <summary>The sizes that an address can ask for.</summary>
    public IReadOnlyList<int> Sizes { get; } = [.. UsualSizes.Append(size).Distinct().Order()];

    /// <summary>Makes the plan for the neighbours of a record, when the first visitor comes from this list.</summary>
    public required Func<DetailPage, ListPlan, NeighbourPlan> NeighboursMaker { get; init; }

    /// <summary>How the neighbours of a record are read in this list.</summary>
    public NeighbourPlan NeighboursOn(DetailPage page) => _neighbours.GetOrAdd(page, NeighboursMaker, Plan);
}
