using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A link as it stands on a page.</summary>
/// <param name="Column">The shown field it stands on; null for one of its own.</param>
public sealed record PageLink(LinkPlan Plan, string? Column, LinkReason Reason);
