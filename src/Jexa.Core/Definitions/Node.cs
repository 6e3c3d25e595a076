namespace Jexa.Core.Definitions;

/// <summary>A node of an app file: a scalar, a sequence or a mapping, with its place. Every scalar is text.</summary>
/// <param name="LastLine">The line where it ends.</param>
internal abstract record Node(Place At, int LastLine)
{
    public abstract string Shape { get; }
}
