namespace Jexa.Core.Sites;

/// <summary>How a list leads to a new record.</summary>
/// <param name="From">For each parameter of the page, the number of the list's own that fills it; -1 for none.</param>
public sealed record AddPlan(PageHead Page, string Text, IReadOnlyList<int> From);
