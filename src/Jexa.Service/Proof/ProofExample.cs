namespace Jexa.Service.Proof;

/// <summary>One place where a finding was met.</summary>
/// <param name="Key">The ID of the record; empty if there is none.</param>
/// <param name="Address">The address that fails; null for none.</param>
/// <param name="Says">What is there.</param>
/// <param name="Request">The request as a line for curl; null for none.</param>
public sealed record ProofExample(string Key, string? Address, string Says, string? Request)
{
    /// <summary>A picture of what is there, as a <c>data:</c> address; null for none.</summary>
    public string? Picture { get; init; }
}
