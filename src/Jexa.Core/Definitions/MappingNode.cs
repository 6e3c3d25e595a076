namespace Jexa.Core.Definitions;

internal sealed record MappingNode(IReadOnlyList<MappingEntry> Entries, Place At)
    : Node(At, Entries.Count == 0 ? At.Line : Entries[^1].Value.LastLine)
{
    public override string Shape => "a mapping";
}
