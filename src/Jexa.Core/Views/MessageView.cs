namespace Jexa.Core.Views;

/// <summary>An answer in words: what happened, what to do, and links to go on.</summary>
/// <param name="Outcome">The outcome's public word.</param>
/// <param name="Sentences">The first says what happened.</param>
/// <param name="Parameter">The parameter at fault, if one is.</param>
/// <param name="Expected">What an ID looks like, if that helps.</param>
public sealed record MessageView(
    PageFrame Frame,
    string? Page,
    string Outcome,
    int Status,
    string Heading,
    IReadOnlyList<string> Sentences,
    string? Parameter,
    string? Expected,
    IReadOnlyList<PlainLink> Links
) : PageView(Frame, Page)
{
    /// <summary>The app's own text instead of the sentences, in Markdown; null for none.</summary>
    public string? Markdown { get; init; }

    /// <summary>What the visitor typed and could not be saved: label and text.</summary>
    public IReadOnlyList<(string Label, string Text)> Typed { get; init; } = [];
}
