using System.Text.RegularExpressions;

namespace Jexa.Core.Formats;

/// <summary>The links in a Markdown text, as far as one can tell without drawing it.</summary>
public static partial class TextLinks
{
    /// <summary>Stands before the name of a page.</summary>
    public const string PageScheme = "page:";

    /// <summary>The targets of links in a Markdown text, without those that have holes or are inside code.</summary>
    public static IEnumerable<string> Of(string text)
    {
        if (!text.Contains(']'))
            return [];
        var plain = Code().Replace(text, "");
        return InlineLink()
            .Matches(plain)
            .Concat(NamedLink().Matches(plain))
            .Select(match => match.Groups[1].Value)
            .Where(target => target.Length > 0 && !target.Contains('{'))
            .Distinct();
    }

    /// <summary>Whether a target is a place on the same page, a mail address or a web address.</summary>
    public static bool LeadsOutside(string target) =>
        target.StartsWith('#') || target.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) || IsWebAddress(target);

    /// <summary>Whether a text is a whole address of the web that a page can lead to.</summary>
    public static bool IsWebAddress(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri) && uri is { Scheme: "http" or "https", UserInfo.Length: 0 };

    [GeneratedRegex(
        @"^(?<fence>```+|~~~+)[^\n]*\n.*?^\k<fence>|(?<tick>`+)(?!`).+?(?<!`)\k<tick>(?!`)",
        RegexOptions.Singleline | RegexOptions.Multiline | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Code();

    [GeneratedRegex(@"\]\(\s*<?([^)\s>]*)")]
    private static partial Regex InlineLink();

    [GeneratedRegex(@"^ {0,3}\[[^\]\n]+\]:\s*<?([^\s>]+)", RegexOptions.Multiline)]
    private static partial Regex NamedLink();
}
