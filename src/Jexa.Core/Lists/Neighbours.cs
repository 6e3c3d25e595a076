using Jexa.Core.Views;

namespace Jexa.Core.Lists;

/// <summary>The previous and the next record, and the way back to the list.</summary>
/// <param name="Ask">The list at the window that begins with the record; null if there is none.</param>
/// <param name="AreLeftOut">Whether finding them took too long.</param>
internal readonly record struct Neighbours(
    PlainLink? Back,
    PlainLink? Previous,
    PlainLink? Next,
    ListAsk? Ask,
    bool AreLeftOut = false
);
