namespace Jexa.Core.Views;

/// <summary>A link with a known text and address: in the menu, on a message, the way back.</summary>
/// <param name="Page">The name of the target page.</param>
public sealed record PlainLink(string Page, string Text, string Address);
