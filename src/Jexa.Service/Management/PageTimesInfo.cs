namespace Jexa.Service.Management;

/// <summary>How long the visits of a page take.</summary>
/// <param name="Median">In microseconds: half of the visits take no longer.</param>
/// <param name="Most">In microseconds: 95 of 100 visits take no longer.</param>
public sealed record PageTimesInfo(string Page, long Visits, double Median, double Most);
