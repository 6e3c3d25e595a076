using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="Back">The list the visitor came from, at the same place; else the record's own list.</param>
/// <param name="Previous">The previous record in that list.</param>
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
    /// <summary>Whether finding the previous and next record took too long.</summary>
    public bool NeighboursLeftOut { get; init; }
}
