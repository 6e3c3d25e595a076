namespace Jexa.Core.Views;

/// <summary>The address that orders a list by a column.</summary>
/// <param name="Name">The column's name in addresses.</param>
/// <param name="Now">The present order by it: 1 ascending, -1 descending, 0 none.</param>
/// <param name="Address">The address that orders by it, or reverses the order if the list is ordered by it.</param>
public sealed record OrderLink(string Name, string Label, int Now, string Address);
