namespace Jexa.Core.Views;

/// <summary>
/// What a visit shows, before anybody decides how it looks: headings, typed cells, links, messages. HTML and JSON are two
/// writers of it.
/// </summary>
/// <param name="Page">The page's name; null if the visit met none.</param>
public abstract record PageView(PageFrame Frame, string? Page)
{
    /// <summary>The records above, from the top.</summary>
    public IReadOnlyList<PlainLink> Trail { get; init; } = [];

    /// <summary>The list that stands beside a record, or beside the message that there is none.</summary>
    public ListView? Beside { get; init; }

    /// <summary>What has just been done, said once; null for nothing.</summary>
    public string? Said { get; init; }
}
