using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Shows a text of the app.</summary>
/// <param name="source">Markdown; <c>{parameter}</c> stands for a value from the address.</param>
public sealed partial class TextPage(PageHead head, string title, string source) : Page(head)
{
    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links =>
        [
            .. Lists
                .SelectMany(group => group.Lists)
                .Select(list => new PageLink(
                    new LinkPlan(list.Name, list.Head.Heading, list.Head.OpenAddress!),
                    null,
                    LinkReason.Part
                )),
        ];

    /// <summary>The app's lists in groups, if the page shows them. Filled when all pages are known.</summary>
    public IReadOnlyList<(string Title, IReadOnlyList<ListPage> Lists)> Lists { get; internal set; } = [];

    /// <summary>The lists that the page searches. Filled when all pages are known.</summary>
    public IReadOnlyList<ListPage> Searched { get; internal set; } = [];

    /// <summary>The page's title.</summary>
    public string Title { get; } = title;

    /// <summary>The text, in Markdown.</summary>
    public string Source { get; } = source;

    /// <summary>The names in the holes of a text: <c>{name}</c>, with only a name between the braces.</summary>
    internal static IEnumerable<string> Holes(string text) => Hole().Matches(text).Select(match => match.Groups[1].Value);

    /// <summary>A text with its holes filled.</summary>
    public static string Fill(string text, Func<string, string> valueOf) =>
        Hole().Replace(text, match => valueOf(match.Groups[1].Value));

    [System.Text.RegularExpressions.GeneratedRegex(@"\{([A-Za-z_][A-Za-z0-9_]*)\}")]
    private static partial System.Text.RegularExpressions.Regex Hole();
}
