namespace Jexa.Core.Definitions;

/// <summary>What the app shows around every page: names of files beside the app file.</summary>
/// <param name="Header">Markdown above the content of every page.</param>
/// <param name="Footer">Markdown below the content of every page.</param>
/// <param name="Logo">A picture before the app's name.</param>
/// <param name="Style">A style sheet after Jexa's own.</param>
/// <param name="Page">An HTML file whose <c>main</c> each page takes the place of; null for Jexa's own frame.</param>
public sealed record FrameDefinition(Written? Header, Written? Footer, Written? Logo, Written? Style, Written? Page)
{
    /// <summary>A frame of which the app file says nothing.</summary>
    public static FrameDefinition None { get; } = new(null, null, null, null, null);
}
