namespace Jexa.Core.Views;

/// <summary>A link whose text and address are known: in the menu, on a message, the way back.</summary>
/// <param name="Page">The name of the page it leads to.</param>
public sealed record PlainLink(string Page, string Text, string Address);
