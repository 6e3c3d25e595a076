using Jexa.Core.Values;

namespace Jexa.Core.Views;

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
