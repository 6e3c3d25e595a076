namespace Jexa.Core.Definitions;

internal sealed record SequenceNode(IReadOnlyList<Node> Items, Place At)
    : Node(At, Items.Count == 0 ? At.Line : Items[^1].LastLine)
{
    public override string Shape => "a list";
}
