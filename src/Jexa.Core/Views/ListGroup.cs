namespace Jexa.Core.Views;

/// <summary>Some lists of the page of all lists, under one title.</summary>
public sealed record ListGroup(string Title, IReadOnlyList<ListEntry> Lists);
