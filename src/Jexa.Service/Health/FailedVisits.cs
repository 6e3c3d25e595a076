namespace Jexa.Service.Health;

/// <summary>Visits to one page that failed in the same way, and came from the same place.</summary>
/// <param name="Page">The page; empty if no page has the addresses.</param>
/// <param name="Outcome">The word of the outcome.</param>
/// <param name="From">Where the visitors came from; empty if their browsers did not say.</param>
/// <param name="Targets">The latest of their addresses that differ, the last one first.</param>
/// <param name="Visits">How many there were.</param>
/// <param name="Last">The number of the last one.</param>
internal sealed record FailedVisits(
    string Page,
    string Outcome,
    string From,
    IReadOnlyList<string> Targets,
    int Visits,
    long Last
)
{
    /// <summary>One broken link may lead to as many addresses as its list has rows.</summary>
    private const int MostTargets = 5;

    /// <summary>The same with one more visit.</summary>
    public FailedVisits With(string target, long number) =>
        this with
        {
            Targets = Targets[0] == target ? Targets : [target, .. Targets.Where(known => known != target).Take(MostTargets - 1)],
            Visits = Visits + 1,
            Last = number,
        };
}
