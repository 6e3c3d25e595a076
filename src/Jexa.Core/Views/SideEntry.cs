namespace Jexa.Core.Views;

/// <summary>One value of a side list.</summary>
/// <param name="Address">Null if no address can contain the value.</param>
public sealed record SideEntry(string Text, string? Address, long Count, bool IsCurrent);
