namespace Jexa.Core.Addresses;

/// <summary>One <c>name=value</c> of the query string, decoded. The value is null if it could not be decoded.</summary>
public readonly record struct QueryPair(string Name, string? Value);
