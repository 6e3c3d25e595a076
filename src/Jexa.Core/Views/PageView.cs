namespace Jexa.Core.Views;

/// <summary>
/// What a visit shows, without its form: headings, typed cells, links, messages. HTML and JSON are two ways to write it.
/// </summary>
/// <param name="Page">The page's name; null if the visit matched none.</param>
public abstract record PageView(PageFrame Frame, string? Page)
{
    /// <summary>The records above it, from the top.</summary>
    public IReadOnlyList<PlainLink> Trail { get; init; } = [];

    /// <summary>The list beside a record, or beside the message that there is none.</summary>
    public ListView? Beside { get; init; }

    /// <summary>The message about what was just done, shown once; null for none.</summary>
    public string? Said { get; init; }
}
