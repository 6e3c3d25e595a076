using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Something wrong that an audit met.</summary>
/// <param name="About">What tells it from others of its code: the pattern of the addresses.</param>
/// <param name="Kind">The kind of row or ID that it was met with.</param>
/// <param name="Says">What was there.</param>
internal sealed record AuditFault(FindingCode Code, string About, string Kind, Uri Address, string Says, bool IsCertain);
