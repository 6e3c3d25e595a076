namespace Jexa.Service.Proof;

/// <summary>How much of something was looked at.</summary>
/// <param name="Name">What it is, such as “rows of bridge”.</param>
public sealed record ProofFigure(string Name, long Count);
