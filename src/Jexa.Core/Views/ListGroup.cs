namespace Jexa.Core.Views;

public sealed record ListGroup(string Title, IReadOnlyList<ListEntry> Lists);
