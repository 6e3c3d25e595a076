using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>The records above a row, from the top.</summary>
/// <param name="Root">The list at its beginning; null for none.</param>
public sealed record TrailPlan(PlainLink? Root, IReadOnlyList<TrailStep> Steps)
{
    /// <summary>A page that shows no way from home.</summary>
    public static TrailPlan None { get; } = new(null, []);
}
