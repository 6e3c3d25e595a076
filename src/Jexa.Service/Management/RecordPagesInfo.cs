namespace Jexa.Service.Management;

/// <summary>A record kind and the pages that show it.</summary>
public sealed record RecordPagesInfo(string Record, IReadOnlyList<string> Pages);
