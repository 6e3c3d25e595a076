using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A record that a list's parameters name; the listed records belong to it.</summary>
/// <param name="Parameters">The parameters of its key, in the order of the lookup's keys.</param>
/// <param name="Trail">The records above it, and it itself as the last.</param>
public sealed record ParentPlan(
    SiteRecord Record,
    IReadOnlyList<int> Parameters,
    RecordLookup Lookup,
    TextPlan Label,
    TrailPlan Trail
);
