using Jexa.Core.Views;

namespace Jexa.Core.Lists;

/// <summary>The records before and behind one, and the way back to the list at its place.</summary>
/// <param name="Ask">The list at the window that begins with the record; null if it has none.</param>
/// <param name="AreLeftOut">Finding them took too long.</param>
internal readonly record struct Neighbours(
    PlainLink? Back,
    PlainLink? Previous,
    PlainLink? Next,
    ListAsk? Ask,
    bool AreLeftOut = false
);
