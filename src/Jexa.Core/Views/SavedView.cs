namespace Jexa.Core.Views;

/// <summary>What a program is told about a change that was made.</summary>
/// <param name="Id">The ID as it is in addresses; null if no page shows the record.</param>
public sealed record SavedView(PageFrame Frame, string Page, string? Id, string Address) : PageView(Frame, Page);
