namespace Jexa.Core.Views;

/// <summary>The lists of an app, or those that were looked for.</summary>
/// <param name="Action">Where the search is sent.</param>
/// <param name="Find">What was looked for; empty for nothing.</param>
public sealed record ListIndexView(string Action, string Find, IReadOnlyList<ListGroup> Groups);
