namespace Jexa.Core.Views;

/// <summary>A field that somebody else changed meanwhile.</summary>
/// <param name="Mine">What the visitor typed; null if the visitor did not change it.</param>
public sealed record FormClash(string Was, string Theirs, string? Mine);
