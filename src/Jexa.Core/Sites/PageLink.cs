using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A link on a page.</summary>
/// <param name="Column">The field that it is on; null for a link of its own.</param>
public sealed record PageLink(LinkPlan Plan, string? Column, LinkReason Reason);
