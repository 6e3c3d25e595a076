namespace Jexa.Core.Views;

/// <summary>A record between a row and a field of another record.</summary>
/// <param name="Key">The foreign key to it.</param>
/// <param name="Presence">A column of the record that is filled exactly if the record exists and may be seen.</param>
public readonly record struct StepPlan(int Key, int Presence);
