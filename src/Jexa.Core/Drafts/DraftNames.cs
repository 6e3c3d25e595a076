using System.Text;
using Jexa.Core.Formats;

namespace Jexa.Core.Drafts;

/// <summary>How drafts name records, pages and parameters, and how they write texts in YAML.</summary>
public static class DraftNames
{
    internal static string Parameter(string column)
    {
        var name = new string([.. column.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_')]);
        return Addresses.PathTemplate.ReservedParameters.Contains(name) || !char.IsAsciiLetter(name[0]) ? "of_" + name : name;
    }

    /// <summary>A record's name: the table's name, in the singular and lower case, with hyphens.</summary>
    public static string Named(string table, HashSet<string> names)
    {
        var slug = Slug(Labels.OfRecord(table[(table.LastIndexOf('.') + 1)..]));
        var cut = slug.LastIndexOf('-') + 1;
        var name = slug[..cut] + Singular(slug[cut..]);
        if (name.Length == 0 || !char.IsAsciiLetter(name[0]))
            name = "t-" + name;
        name = name.Length > 40 ? name[..40].TrimEnd('-') : name;
        var free = name;
        for (var i = 2; !names.Add(free); i++)
            free = $"{name}-{i}";
        return free;
    }

    internal static string Slug(string words) =>
        new string([
            .. words
                .Normalize(NormalizationForm.FormD)
                .Where(c => !char.IsSurrogate(c) && (char.IsAsciiLetterOrDigit(c) || c is ' ' or '-'))
                .Select(c => c == ' ' ? '-' : char.ToLowerInvariant(c)),
        ]).Trim('-');

    internal static string Singular(string word) =>
        word.Length < 4 ? word
        : word.EndsWith("ies", StringComparison.Ordinal) ? word[..^3] + "y"
        : word.EndsWith("sses", StringComparison.Ordinal)
        || word.EndsWith("xes", StringComparison.Ordinal)
        || word.EndsWith("ches", StringComparison.Ordinal)
        || word.EndsWith("shes", StringComparison.Ordinal)
            ? word[..^2]
        : word.EndsWith('s')
        && !word.EndsWith("ss", StringComparison.Ordinal)
        && !word.EndsWith("us", StringComparison.Ordinal)
        && !word.EndsWith("is", StringComparison.Ordinal)
            ? word[..^1]
        : word;

    internal static string List(IEnumerable<string> names) => $"[{string.Join(", ", names.Select(Quoted))}]";

    /// <summary>A text that YAML reads back unchanged.</summary>
    internal static string Quoted(string text) =>
        text.Length > 0
        && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '_' or '-' or '.' or '/')
        && char.IsAsciiLetter(text[0])
        && text.ToLowerInvariant() is not ("true" or "false" or "yes" or "no" or "on" or "off" or "null" or "y" or "n")
            ? text
            : $"\"{text.Replace("\\", "\\\\").Replace("\"", "\\\"").Replace("\n", "\\n").Replace("\t", "\\t")}\"";
}
