namespace Jexa.Core.Views;

/// <summary>What a program is told of a change that was made.</summary>
/// <param name="Id">As it stands in addresses; null if no page shows the record.</param>
public sealed record SavedView(PageFrame Frame, string Page, string? Id, string Address) : PageView(Frame, Page);
