using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <param name="Presence">A column of the record that is never empty if it is there and visible.</param>
public sealed record TrailStep(TextPlan Label, int Presence, LinkPlan? Link);
