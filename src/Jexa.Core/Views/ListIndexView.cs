namespace Jexa.Core.Views;

/// <summary>The lists of an app, or those that match a search.</summary>
/// <param name="Action">The address of the search.</param>
/// <param name="Find">The search text; empty for none.</param>
public sealed record ListIndexView(string Action, string Find, IReadOnlyList<ListGroup> Groups);
