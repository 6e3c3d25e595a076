using Jexa.Service.Traces;

namespace Jexa.Service.Management;

/// <param name="Kept">How many visits are kept in all.</param>
/// <param name="Outcomes">The outcomes of all visits that are kept, the most frequent first.</param>
/// <param name="Visits">The latest of those asked for, newest first.</param>
public sealed record VisitList(int Kept, IReadOnlyList<OutcomeCount> Outcomes, IReadOnlyList<VisitInfo> Visits);
