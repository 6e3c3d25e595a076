namespace Jexa.Core.Definitions;

/// <summary>The place of a page in the menu.</summary>
/// <param name="IsHidden">Whether it is not in the menu.</param>
/// <param name="Place">Smaller numbers come first, then pages without a number, in the order of the file.</param>
public readonly record struct MenuPlace(bool IsHidden, int? Place);
