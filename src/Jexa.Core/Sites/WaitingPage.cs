namespace Jexa.Core.Sites;

/// <summary>A page whose source has not answered since the service began. Only its path is known.</summary>
/// <param name="source">The source that it waits for.</param>
public sealed class WaitingPage(PageHead head, string source) : Page(head)
{
    /// <inheritdoc/>
    public override string Kind => "waiting";

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links => [];

    /// <summary>The name of the source that the page waits for.</summary>
    public string Source { get; } = source;
}
