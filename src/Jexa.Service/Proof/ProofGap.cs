namespace Jexa.Service.Proof;

/// <summary>Something that was not looked at, or not to its end.</summary>
/// <param name="IsChosen">Whether somebody asked for that.</param>
public sealed record ProofGap(string Part, string Why, bool IsChosen = false);
