namespace Jexa.Core.Views;

/// <summary>A side list.</summary>
/// <param name="All">The list without this choice; null for none.</param>
/// <param name="IsExact">Whether the counts are of this moment.</param>
/// <param name="HasFailed">It could not be counted. The rest of the page is complete.</param>
public sealed record SideView(
    string Title,
    IReadOnlyList<SideEntry> Entries,
    PlainLink? All,
    bool IsWhole,
    bool IsExact,
    bool HasFailed
)
{
    /// <summary>Counting takes so long that the page did not wait for it.</summary>
    public bool IsBeingCounted { get; init; }
}
