namespace Jexa.Core.Views;

/// <summary>A text page.</summary>
/// <param name="Markdown">The text with its parameters filled in.</param>
public sealed record TextView(PageFrame Frame, string Page, string Heading, string Markdown) : PageView(Frame, Page)
{
    /// <summary>What a search across lists found; null on a page that does not search.</summary>
    public FoundView? Found { get; init; }

    /// <summary>The lists of the app; null on a page without them.</summary>
    public ListIndexView? Lists { get; init; }
}
