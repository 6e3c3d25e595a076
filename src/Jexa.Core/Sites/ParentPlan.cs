using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A record that a list's parameters name: what is listed belongs to it.</summary>
/// <param name="Parameters">The parameters that make its key, in the order of the lookup's keys.</param>
/// <param name="Trail">What stands above it, and it itself last.</param>
public sealed record ParentPlan(
    SiteRecord Record,
    IReadOnlyList<int> Parameters,
    RecordLookup Lookup,
    TextPlan Label,
    TrailPlan Trail
);
