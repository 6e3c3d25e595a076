namespace Jexa.Core.Definitions;

/// <param name="IsPlain">Whether it has no quotes.</param>
internal sealed record ScalarNode(Written Text, bool IsPlain, Place At, int LastLine) : Node(At, LastLine)
{
    public override string Shape => Text.Value.Length == 0 && IsPlain ? "nothing" : "a text";
}
