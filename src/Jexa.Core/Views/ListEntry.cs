namespace Jexa.Core.Views;

/// <param name="Total">Null if it was not counted in time, or cannot be counted.</param>
public sealed record ListEntry(PlainLink Link, Total? Total);
