namespace Jexa.Core.Views;

/// <summary>Where the other windows of a list are; null if there is none that way.</summary>
public sealed record WindowLinks(string? First, string? Previous, string? Next, string? Last);
