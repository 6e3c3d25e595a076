namespace Jexa.Service.Management;

/// <summary>The number of kept visits with an outcome.</summary>
public sealed record OutcomeCount(string Outcome, int Visits);
