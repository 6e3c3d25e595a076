using System.Text.RegularExpressions;

namespace Jexa.Service.Clients;

/// <summary>
/// Removes unused declarations from a generated TypeScript file: compilers that refuse unused names refuse them in generated
/// files too. Exported declarations count as used.
/// </summary>
internal static partial class UsedParts
{
    public static string Of(string text)
    {
        var parts = Split(text);
        while (
            parts.FindIndex(part =>
                part.Name is { } name && !part.IsExported && !parts.Any(other => other != part && Uses(other.Text, name))
            )
                is >= 0
                    and var unused
        )
            parts.RemoveAt(unused);
        return string.Concat(parts.Select(part => part.Text));
    }

    /// <summary>
    /// The declarations at the top level, each with the comments before it. The text before the first one has no name.
    /// </summary>
    private static List<Part> Split(string text)
    {
        var starts = Begins()
            .Matches(text)
            .Select(match => (match.Index, Name: match.Groups["name"].Value, IsExported: match.Groups["export"].Success))
            .ToList();
        var parts = new List<Part>();
        if (starts.Count == 0)
            return [new Part(null, true, text)];
        if (starts[0].Index > 0)
            parts.Add(new Part(null, true, text[..starts[0].Index]));
        for (var i = 0; i < starts.Count; i++)
            parts.Add(
                new Part(
                    starts[i].Name,
                    starts[i].IsExported,
                    text[starts[i].Index..(i + 1 < starts.Count ? starts[i + 1].Index : text.Length)]
                )
            );
        return parts;
    }

    private static bool Uses(string text, string name) => Regex.IsMatch(text, $@"(?<![\w$]){Regex.Escape(name)}(?![\w$])");

    [GeneratedRegex(
        @"^(?:/\*\*(?:(?!\*/)[^\n])*\*/\n)?(?<export>export )?(?:declare )?(?:async )?"
            + @"(?:const|let|type|interface|class|function) (?<name>[A-Za-z_$][\w$]*)",
        RegexOptions.Multiline
    )]
    private static partial Regex Begins();

    private sealed record Part(string? Name, bool IsExported, string Text);
}
