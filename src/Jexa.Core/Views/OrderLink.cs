namespace Jexa.Core.Views;

/// <summary>The address that orders a list by a column.</summary>
/// <param name="Name">The column's name in addresses.</param>
/// <param name="Now">How the list is ordered by it now: 1 rising, -1 falling, 0 not.</param>
/// <param name="Address">The address that orders by it, turned round where it is ordered so already.</param>
public sealed record OrderLink(string Name, string Label, int Now, string Address);
