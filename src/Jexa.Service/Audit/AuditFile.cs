namespace Jexa.Service.Audit;

/// <summary>What a picture or another file was answered with.</summary>
/// <param name="Status">0 if there is no answer.</param>
/// <param name="Type">The media type, in lower case.</param>
/// <param name="Length">About how long it is; at most 2 MB are read.</param>
/// <param name="Trouble">Why there is no answer; null if there is one.</param>
internal sealed record AuditFile(int Status, string Type, int Length, string? Trouble);
