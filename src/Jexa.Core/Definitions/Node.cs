namespace Jexa.Core.Definitions;

/// <summary>A node of an app file's text: a scalar, a sequence or a mapping, with its place. Every scalar is text.</summary>
/// <param name="LastLine">The line where the last part of it ends.</param>
internal abstract record Node(Place At, int LastLine)
{
    public abstract string Shape { get; }
}
