namespace Jexa.Service.Management;

/// <summary>Visits to one page that failed in the same way, and came from the same place.</summary>
/// <param name="Page">The page; empty if no page has the addresses.</param>
/// <param name="From">Where the visitors came from; empty if their browsers did not say.</param>
/// <param name="Targets">The latest of their addresses that differ, five at most, the last one first.</param>
/// <param name="Last">The number of the last visit.</param>
public sealed record FailedVisitsInfo(
    string Page,
    string Outcome,
    string From,
    IReadOnlyList<string> Targets,
    int Visits,
    long Last
);
