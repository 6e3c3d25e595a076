namespace Jexa.Core.Sites;

/// <summary>A former path of a page. Its addresses redirect to the present path.</summary>
/// <param name="head">The page's head under its former path.</param>
public sealed class FormerPage(PageHead head, Page now) : Page(head)
{
    /// <inheritdoc/>
    public override string Kind => "former";

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links => [];

    /// <summary>The page as it is now.</summary>
    public Page Now { get; } = now;
}
