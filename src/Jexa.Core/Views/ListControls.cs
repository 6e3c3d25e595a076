namespace Jexa.Core.Views;

/// <summary>What a visitor can ask of a list, and what is asked now.</summary>
/// <param name="Action">The list's own address, without any control.</param>
/// <param name="Kept">The parameters that stay whatever is asked.</param>
/// <param name="Find">What is searched for; null if the list cannot be searched.</param>
/// <param name="Order">The order asked for, as an address says it; empty for the list's own.</param>
/// <param name="IsNarrowed">Whether a search or an optional filter leaves records out.</param>
/// <param name="IsPlain">Nothing is asked: the same object stands on every such page of the list.</param>
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
