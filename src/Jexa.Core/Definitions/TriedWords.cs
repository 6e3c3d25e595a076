namespace Jexa.Core.Definitions;

/// <summary>Other words that people try first for keys of the app file.</summary>
internal static class TriedWords
{
    private static readonly Dictionary<string, string[]> Meant = new()
    {
        ["columns"] = ["show"],
        ["fields"] = ["show", "form"],
        ["display"] = ["show"],
        ["on"] = ["column"],
        ["field"] = ["column"],
        ["sort"] = ["order"],
        ["sortby"] = ["order"],
        ["orderby"] = ["order"],
        ["url"] = ["path", "connection"],
        ["route"] = ["path"],
        ["uri"] = ["path", "connection"],
        ["address"] = ["path"],
        ["filter"] = ["where"],
        ["filters"] = ["where"],
        ["conditions"] = ["where"],
        ["table"] = ["from"],
        ["target"] = ["to"],
        ["page"] = ["to"],
        ["href"] = ["to"],
        ["params"] = ["with", "by"],
        ["parameters"] = ["with", "by"],
        ["limit"] = ["size"],
        ["pagesize"] = ["size"],
        ["rows"] = ["size"],
        ["primarykey"] = ["key"],
        ["id"] = ["key", "by"],
        ["name"] = ["label", "text", "title"],
        ["heading"] = ["title"],
        ["database"] = ["connection"],
        ["file"] = ["connection"],
        ["driver"] = ["engine"],
        ["type"] = ["engine"],
        ["hidden"] = ["secret"],
        ["format"] = ["as"],
    };

    /// <summary>The valid key that a word probably meant; null if none is known.</summary>
    public static string? For(string word, IEnumerable<string> valid)
    {
        var folded = string.Concat(word.Where(char.IsLetterOrDigit)).ToLowerInvariant();
        return Meant.TryGetValue(folded, out var meant) ? meant.FirstOrDefault(valid.Contains) : null;
    }
}
