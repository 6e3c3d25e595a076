namespace Jexa.Core.Views;

/// <summary>The addresses of the other windows of a list; null in a direction without one.</summary>
public sealed record WindowLinks(string? First, string? Previous, string? Next, string? Last);
