using Jexa.Service.Runs;

namespace Jexa.Service.Management;

/// <summary>The proofs of a service: the one that is being made, and those that were.</summary>
/// <param name="Running">Null if none is being made.</param>
/// <param name="Reports">The latest first.</param>
public sealed record ProofsInfo(ProofProgress? Running, IReadOnlyList<ProofSummary> Reports);
