namespace Jexa.Core.Views;

/// <summary>A text of the app's own.</summary>
/// <param name="Markdown">With its parameters filled in.</param>
public sealed record TextView(PageFrame Frame, string Page, string Heading, string Markdown) : PageView(Frame, Page)
{
    /// <summary>The lists of the app; null on a page that does not show them.</summary>
    public ListIndexView? Lists { get; init; }
}
