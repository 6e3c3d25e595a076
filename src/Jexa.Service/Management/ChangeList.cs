namespace Jexa.Service.Management;

/// <param name="Changes">Newest first.</param>
/// <param name="More">Whether there are older ones.</param>
public sealed record ChangeList(IReadOnlyList<ChangeInfo> Changes, bool More);
