namespace Jexa.Service.Management;

/// <summary>What can be typed at a place.</summary>
/// <param name="From">Where what has been typed of it begins, in UTF-16 units from 0.</param>
public sealed record CompletionsInfo(int From, IReadOnlyList<CompletionInfo> Completions);
