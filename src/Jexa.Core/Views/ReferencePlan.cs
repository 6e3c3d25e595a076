namespace Jexa.Core.Views;

/// <summary>How a foreign key shows the record it leads to.</summary>
/// <param name="Presence">A column of the other record that is never empty if the record is there and visible.</param>
public sealed record ReferencePlan(TextPlan Label, int Presence, LinkPlan? Link);
