namespace Jexa.Core.Definitions;

/// <summary>Where a page stands in the menu.</summary>
/// <param name="IsHidden">Nowhere.</param>
/// <param name="Place">Smaller ones first, then those without, in the order of the file.</param>
public readonly record struct MenuPlace(bool IsHidden, int? Place);
