using Jexa.Core.Contracts;

namespace Jexa.Service.Clients;

/// <summary>
/// Names of pages in another language: identifiers made from page names, each unique. Which of two pages gets a name that both
/// could have does not depend on anything else in the file.
/// </summary>
public sealed class ClientNames
{
    private readonly Dictionary<string, string> _names = [];

    /// <param name="taken">Identifiers that no page can have.</param>
    /// <param name="variants">The identifiers that one name stands for. None of them may be taken.</param>
    public ClientNames(
        IEnumerable<PageContract> pages,
        Func<string, string> spell,
        Func<string, IEnumerable<string>> variants,
        IEnumerable<string> taken
    )
    {
        var used = taken.ToHashSet(StringComparer.Ordinal);
        foreach (
            var name in pages
                .Select(page => page.Name)
                .OrderBy(name => spell(name) != name)
                .ThenBy(name => name, StringComparer.Ordinal)
        )
        {
            var free = spell(name);
            for (var number = 2; variants(free).Any(used.Contains); number++)
                free = $"{spell(name)}{number}";
            used.UnionWith(variants(free));
            _names[name] = free;
        }
    }

    public string this[string page] => _names[page];

    /// <summary><c>bridge-edit</c> as <c>bridgeEdit</c>.</summary>
    public static string Camel(string name)
    {
        var pascal = Pascal(name);
        return char.ToLowerInvariant(pascal[0]) + pascal[1..];
    }

    /// <summary><c>bridge-edit</c> as <c>BridgeEdit</c>; letters, digits and <c>_</c> only.</summary>
    public static string Pascal(string name)
    {
        var words = new string([.. name.Select(c => char.IsAsciiLetterOrDigit(c) ? c : ' ')]).Split(
            ' ',
            StringSplitOptions.RemoveEmptyEntries
        );
        var pascal = string.Concat(words.Select(word => char.ToUpperInvariant(word[0]) + word[1..]));
        return pascal.Length == 0 ? "X"
            : char.IsAsciiDigit(pascal[0]) ? "X" + pascal
            : pascal;
    }
}
