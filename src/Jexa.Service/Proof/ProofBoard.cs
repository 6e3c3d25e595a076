namespace Jexa.Service.Proof;

/// <summary>The pages of a site by the kinds of address that were tried.</summary>
/// <param name="Cases">The kinds, in the order of the columns.</param>
public sealed record ProofBoard(IReadOnlyList<string> Cases, IReadOnlyList<ProofRow> Rows);
