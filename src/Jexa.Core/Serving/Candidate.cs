using Jexa.Core.Sites;

namespace Jexa.Core.Serving;

/// <summary>A page that an address might have matched, and why it did or did not.</summary>
public sealed record Candidate(Page Page, bool Won, string Reason);
