namespace Jexa.Core.Definitions;

/// <summary>What the app shows around every page: names of files beside the app file.</summary>
/// <param name="Header">Markdown above the content of every page.</param>
/// <param name="Footer">Markdown below the content of every page.</param>
/// <param name="Logo">A picture before the app's name.</param>
/// <param name="Style">A style sheet after Jexa's own.</param>
/// <param name="Page">An HTML file whose <c>main</c> each page takes the place of; null for Jexa's own frame.</param>
public sealed record FrameDefinition(Written? Header, Written? Footer, Written? Logo, Written? Style, Written? Page)
{
    /// <summary>The palettes of pages; the first is the usual one.</summary>
    public static IReadOnlyList<string> Themes { get; } = ["quiet", "contrast", "warm"];

    /// <summary>How much room a row of a table has; the first is the usual one.</summary>
    public static IReadOnlyList<string> Densities { get; } = ["close", "roomy"];

    /// <summary>The palette.</summary>
    public string Theme { get; init; } = Themes[0];

    /// <summary>How much room a row of a table has.</summary>
    public string Rows { get; init; } = Densities[0];

    /// <summary>Whether pages have a script that shows that the next page is being loaded.</summary>
    public bool TellsLoading { get; init; } = true;

    /// <summary>Whether pages have a script that loads what is pointed at, before it is clicked.</summary>
    public bool Prefetches { get; init; } = true;

    /// <summary>A frame of which the app file says nothing.</summary>
    public static FrameDefinition None { get; } = new(null, null, null, null, null);
}
