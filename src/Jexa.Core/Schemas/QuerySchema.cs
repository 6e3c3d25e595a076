namespace Jexa.Core.Schemas;

/// <summary>What a developer's own query returns.</summary>
/// <param name="Parameters">The names of its parameters, without the sign in front.</param>
/// <param name="Fault">Why it cannot be used, as a sentence; null if it can.</param>
public sealed record QuerySchema(IReadOnlyList<ColumnSchema> Columns, IReadOnlyList<string> Parameters, string? Fault);
