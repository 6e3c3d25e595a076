namespace Jexa.Service.Management;

/// <summary>The outcomes of one second.</summary>
/// <param name="Second">Seconds of Unix time.</param>
public sealed record SecondInfo(long Second, IReadOnlyList<OutcomeCount> Outcomes);
