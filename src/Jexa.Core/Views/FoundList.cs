using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>What was found in one list.</summary>
/// <param name="All">The list, asked the same.</param>
/// <param name="Rows">The first records; null if the list could not be searched.</param>
/// <param name="Total">How many there are; null if counting took too long.</param>
public sealed record FoundList(PlainLink All, ListShape Shape, RowBlock? Rows, Total? Total);
