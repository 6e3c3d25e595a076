namespace Jexa.Service.Management;

/// <summary>How many of the visits that are kept had an outcome.</summary>
public sealed record OutcomeCount(string Outcome, int Visits);
