namespace Jexa.Service.Management;

/// <summary>A first app file, as the working copy.</summary>
/// <param name="Doubts">What the draft is unsure of, as sentences.</param>
public sealed record StartedInfo(WorkingCopyInfo Copy, IReadOnlyList<string> Doubts);
