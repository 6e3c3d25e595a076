namespace Jexa.Service.Proof;

/// <summary>How a report compares with an earlier one.</summary>
/// <param name="Since">When the earlier one was made.</param>
/// <param name="New">The findings that it did not have.</param>
/// <param name="Gone">Those that only it has.</param>
public sealed record ProofChange(DateTimeOffset Since, int New, int Known, IReadOnlyList<ProofFinding> Gone);
