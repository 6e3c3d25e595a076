namespace Jexa.Core.Views;

/// <summary>A record between a row and a field of another record.</summary>
/// <param name="Key">The foreign key that leads there.</param>
/// <param name="Presence">A column of the record that is never empty if the record is there and visible.</param>
public readonly record struct StepPlan(int Key, int Presence);
