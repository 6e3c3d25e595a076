using Jexa.Core.Plans;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Shows one record, by the ID in its address.</summary>
/// <param name="stored">The cells with the order columns of lists, as they are stored.</param>
/// <param name="list">The list of the same records that needs no parameter, if there is one.</param>
/// <param name="beside">The list beside the record; null for none.</param>
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
    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links { get; } = links;

    /// <summary>The fields, as columns of the query.</summary>
    public DetailShape Shape { get; } = shape;

    /// <inheritdoc/>
    public override bool LacksPictures { get; } = shape.Fields.Any(column => column.Picture?.HasNoPlace == true);

    /// <summary>The columns of the query, by field.</summary>
    public IReadOnlyDictionary<ColumnRef, int> Stored { get; } = stored;

    /// <summary>The way from home to this page.</summary>
    public TrailPlan Trail { get; } = trail;

    /// <summary>The related records, in order.</summary>
    public IReadOnlyList<BlockPlan> Blocks { get; } = blocks;

    /// <summary>The list that a missing ID leads to. Null if there is none.</summary>
    public PageHead? List { get; } = list;

    /// <summary>The list shown beside the record. Null if there is none.</summary>
    public PageHead? Beside { get; } = beside;

    /// <summary>Whether a visit without <c>from</c> needs nothing but the record.</summary>
    public bool StandsAlone { get; } = blocks.Count == 0 && beside is null && (list is null || head.Definition.NeighboursHidden);
}
