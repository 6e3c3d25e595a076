namespace Jexa.Core.Views;

/// <summary>What a visitor can ask of a list, and what is asked now.</summary>
/// <param name="Action">The list's address without any control.</param>
/// <param name="Kept">Parameters that stay when controls change.</param>
/// <param name="Find">The search text; null if the list has no search.</param>
/// <param name="Order">The present order, as an address says it; empty for the list's own.</param>
/// <param name="IsNarrowed">Whether a search or an optional filter hides records.</param>
/// <param name="IsPlain">Whether nothing is asked. All such pages of a list share the same object.</param>
public sealed record ListControls(
    string Action,
    IReadOnlyList<(string Name, string Value)> Kept,
    string? Find,
    IReadOnlyList<OrderLink> Orders,
    string Order,
    IReadOnlyList<int> Sizes,
    int Size,
    int OwnSize,
    bool IsNarrowed,
    bool IsPlain
);
