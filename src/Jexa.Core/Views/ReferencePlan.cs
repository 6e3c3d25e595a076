namespace Jexa.Core.Views;

/// <summary>How a foreign key shows the record that it refers to.</summary>
/// <param name="Presence">A column of the other record that is filled exactly if the record exists and may be seen.</param>
public sealed record ReferencePlan(TextPlan Label, int Presence, LinkPlan? Link);
