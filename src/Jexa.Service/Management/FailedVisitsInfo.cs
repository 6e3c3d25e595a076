namespace Jexa.Service.Management;

/// <summary>Visits that failed alike: the same address, by a link from the same page.</summary>
/// <param name="Page">The page; empty if no page has the address.</param>
/// <param name="From">Where the visitors came from; empty if their browsers did not say.</param>
/// <param name="Last">The number of the last visit.</param>
public sealed record FailedVisitsInfo(string Page, string Outcome, string Target, string From, int Visits, long Last);
