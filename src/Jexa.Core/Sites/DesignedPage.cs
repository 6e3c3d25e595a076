namespace Jexa.Core.Sites;

/// <summary>A page whose table is not there yet: its own HTML is shown as it was designed.</summary>
/// <param name="table">The table that its records are to come from.</param>
public sealed class DesignedPage(PageHead head, string table) : Page(head)
{
    /// <inheritdoc/>
    public override string Kind => "designed";

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links => [];

    /// <summary>The table that its records are to come from.</summary>
    public string Table { get; } = table;
}
