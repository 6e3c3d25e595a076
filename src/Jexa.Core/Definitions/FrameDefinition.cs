namespace Jexa.Core.Definitions;

/// <summary>What the app puts around every page: files beside the app file, by their names.</summary>
/// <param name="Header">Markdown above every page's content.</param>
/// <param name="Footer">Markdown below every page's content.</param>
/// <param name="Logo">A picture before the app's name.</param>
/// <param name="Style">A style sheet behind Jexa's own.</param>
public sealed record FrameDefinition(Written? Header, Written? Footer, Written? Logo, Written? Style)
{
    public static FrameDefinition None { get; } = new(null, null, null, null);
}
