namespace Jexa.Core.Views;

/// <summary>What a search across lists found.</summary>
/// <param name="Action">The address of the search.</param>
/// <param name="Find">The search text; empty for none.</param>
/// <param name="Fault">Why nothing was searched for; null if it was.</param>
/// <param name="Lists">The lists in which something was found, or that could not be searched.</param>
public sealed record FoundView(string Action, string Find, string? Fault, IReadOnlyList<FoundList> Lists);
