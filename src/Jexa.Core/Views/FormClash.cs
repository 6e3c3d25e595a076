namespace Jexa.Core.Views;

/// <summary>A field that somebody else changed meanwhile.</summary>
/// <param name="Mine">What the visitor wrote; null if the visitor left it alone.</param>
public sealed record FormClash(string Was, string Theirs, string? Mine);
