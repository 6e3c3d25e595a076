using System.Text.RegularExpressions;

namespace Jexa.Core.Audit;

/// <summary>Finds in what a page says that which a program left there by mistake.</summary>
public static partial class SpoiltText
{
    /// <summary>The first spoilt words, with a few around them; null if there are none.</summary>
    public static string? Of(string text) =>
        Spoilt().Match(text) is { Success: true } match
            ? text[Math.Max(0, match.Index - 15)..Math.Min(text.Length, match.Index + match.Length + 15)].Trim()
            : null;

    // Escaped twice; decoded as another encoding; a template that was not filled; a value that was none.
    [GeneratedRegex(
        @"&(?:amp|lt|gt|quot|#0?39|#x27);|Ã[\u0080-\u00BF]|â€[\u0080-\u00FF™œž]|\uFFFD|\{\{ ?[\w.]+ ?\}\}|\$\{[\w.]+\}|"
            + @"\[object Object\]|(?<![\w.])(?:undefined|NaN|Invalid Date)(?![\w.])"
    )]
    private static partial Regex Spoilt();
}
