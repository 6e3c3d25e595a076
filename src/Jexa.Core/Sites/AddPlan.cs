namespace Jexa.Core.Sites;

/// <summary>The link from a list to a new record.</summary>
/// <param name="From">For each parameter of the page, the number of the list's parameter that fills it; -1 for none.</param>
public sealed record AddPlan(PageHead Page, string Text, IReadOnlyList<int> From);
