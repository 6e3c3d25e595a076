namespace Jexa.Core.Views;

/// <summary>A value that can be chosen in one visit.</summary>
public sealed record FormOption(string Value, string Label, bool IsSelected);
