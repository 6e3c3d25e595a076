namespace Jexa.Core.Sites;

/// <summary>What a visitor asks of a list.</summary>
/// <param name="Words">Each record must contain all of them in the searched fields.</param>
/// <param name="Order">Null for the list's own order.</param>
public sealed record ListRequest(ParameterValues Values, IReadOnlyList<string> Words, OrderStep? Order, int Size);
