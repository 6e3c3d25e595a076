namespace Jexa.Core.Rewriting;

/// <summary>What stands at a place of a text.</summary>
/// <param name="Place">The keys that lead there.</param>
/// <param name="IsKey">Whether it is the key itself and not its value.</param>
/// <param name="Text">The text of the key or value; null for a list or mapping.</param>
public sealed record MapEntry(IReadOnlyList<string> Place, bool IsKey, string? Text);
