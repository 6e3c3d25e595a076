namespace Jexa.Core.Audit;

/// <summary>A row of somebody's list, with the link to its record.</summary>
/// <param name="Address">The whole address of the link, without fragment.</param>
/// <param name="Id">The part of the address that differs from row to row, decoded.</param>
/// <param name="Facts">What the row says.</param>
public sealed record ListRow(Uri Address, string Id, string LinkText, IReadOnlyList<Fact> Facts);
