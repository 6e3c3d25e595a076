namespace Jexa.Core.Views;

/// <summary>A side list.</summary>
/// <param name="All">The list without this choice; null if there is none.</param>
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
