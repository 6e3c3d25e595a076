using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="Rows">Null for a notice, or if the block could not be loaded.</param>
/// <param name="All">The list of all these records; null for none.</param>
public sealed record BlockView(BlockShape Shape, RowBlock? Rows, Total Total, PlainLink? All, bool HasFailed)
{
    /// <summary>The page that adds one of these records.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>The number of the row that is chosen; -1 for none.</summary>
    public int Chosen { get; init; } = -1;

    /// <summary>Whether it was left out because it takes too long.</summary>
    public bool IsLate { get; init; }
}
