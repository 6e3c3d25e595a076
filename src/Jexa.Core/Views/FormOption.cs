namespace Jexa.Core.Views;

/// <summary>A value that can be chosen.</summary>
public sealed record FormOption(string Value, string Label, bool IsSelected);
