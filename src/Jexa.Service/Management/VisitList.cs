using Jexa.Service.Traces;

namespace Jexa.Service.Management;

/// <param name="Kept">The number of all kept visits.</param>
/// <param name="Outcomes">The outcomes of all kept visits, the most frequent first.</param>
/// <param name="Visits">The latest visits, newest first.</param>
public sealed record VisitList(int Kept, IReadOnlyList<OutcomeCount> Outcomes, IReadOnlyList<VisitInfo> Visits);
