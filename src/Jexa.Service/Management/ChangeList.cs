namespace Jexa.Service.Management;

/// <param name="Changes">Newest first.</param>
/// <param name="More">There are earlier ones.</param>
public sealed record ChangeList(IReadOnlyList<ChangeInfo> Changes, bool More);
