namespace Jexa.Service.Proof;

/// <summary>What was tried on one page.</summary>
public sealed record ProofRow(string Page, IReadOnlyList<ProofCell> Cells);
