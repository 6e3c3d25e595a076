using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>A request to a page, and the answer that the app file asks for.</summary>
/// <param name="Kind"><c>right</c>, <c>missing</c>, <c>malformed</c>, <c>not-canonical</c>, <c>unknown</c>, <c>hidden</c>,
/// <c>gone</c>, <c>moved</c>, <c>ambiguous</c>, <c>twice</c>, <c>control</c> or <c>method</c>.</param>
/// <param name="Parameter">What it is about; null for the address as a whole.</param>
/// <param name="Outcome">The outcome for a program.</param>
/// <param name="Html">The status for a person.</param>
/// <param name="Json">The status for a program.</param>
/// <param name="Leads">The address that a redirect of 301 must lead to; null for none.</param>
public sealed record ProbeCase(
    string Kind,
    string? Parameter,
    string Method,
    string Address,
    OutcomeKind Outcome,
    int Html,
    int Json,
    string? Leads
);
