using Jexa.Core.Definitions;

namespace Jexa.Service.Proof;

/// <summary>An answer that is not what it must be.</summary>
/// <param name="Request">The request as a line for curl.</param>
/// <param name="IsAway">Whether a source did not answer: then the page was not seen.</param>
public sealed record ProbeDifference(FindingCode Code, ProbeCaseInfo Case, string Says, string Request, bool IsAway);
