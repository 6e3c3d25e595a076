using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="Rows">Null where there is a notice, or the block could not be made.</param>
/// <param name="All">The list of all of them; null if there is none.</param>
public sealed record BlockView(BlockShape Shape, RowBlock? Rows, Total Total, PlainLink? All, bool HasFailed)
{
    /// <summary>The page that makes one more of the records.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>It could not be made because it takes too long.</summary>
    public bool IsLate { get; init; }
}
