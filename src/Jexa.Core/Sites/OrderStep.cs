namespace Jexa.Core.Sites;

/// <summary>One step of an order that a visitor or the app file asks for.</summary>
/// <param name="Choice">The number of the column among those that the list can be ordered by.</param>
public readonly record struct OrderStep(int Choice, bool Descending);
