namespace Jexa.Core.Proof;

/// <summary>One place where a fault was met.</summary>
/// <param name="Key">The ID of the record, its parts with commas between them.</param>
/// <param name="Address">The address that fails; null if there is none.</param>
/// <param name="Says">What is there.</param>
public sealed record FaultExample(string Key, string? Address, string Says);
