namespace Jexa.Service.Health;

/// <summary>Visits that failed alike: the same address, by a link from the same page.</summary>
/// <param name="Page">The page; empty if no page has the address.</param>
/// <param name="Outcome">The word of the outcome.</param>
/// <param name="From">Where the visitors came from; empty if their browsers did not say.</param>
/// <param name="Visits">How many there were.</param>
/// <param name="Last">The number of the last one.</param>
internal sealed record FailedVisits(string Page, string Outcome, string Target, string From, int Visits, long Last);
