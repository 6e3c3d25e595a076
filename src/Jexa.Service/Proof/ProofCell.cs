namespace Jexa.Service.Proof;

/// <summary>One address that was tried on a page.</summary>
/// <param name="Case">Its kind: one of the board's.</param>
/// <param name="How">How it was asked for: <c>html</c>, <c>json</c>, <c>head</c>, or a method.</param>
/// <param name="Expected">The outcome that the app file asks for.</param>
/// <param name="Actual">What came, with its status.</param>
public sealed record ProofCell(string Case, string How, string Address, string Expected, string Actual, bool Holds);
