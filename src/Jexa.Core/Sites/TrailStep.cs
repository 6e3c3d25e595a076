using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <param name="Presence">A column of the record that is filled exactly if the record exists and may be seen.</param>
public sealed record TrailStep(TextPlan Label, int Presence, LinkPlan? Link);
