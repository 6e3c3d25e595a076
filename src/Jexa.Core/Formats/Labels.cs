using System.Text;

namespace Jexa.Core.Formats;

/// <summary>Makes words for people from names for machines.</summary>
public static class Labels
{
    private static readonly Dictionary<string, string> Units = new()
    {
        ["m"] = "m",
        ["km"] = "km",
        ["cm"] = "cm",
        ["mm"] = "mm",
        ["km2"] = "km²",
        ["m2"] = "m²",
        ["m3"] = "m³",
        ["kg"] = "kg",
        ["t"] = "t",
        ["kn"] = "kN",
        ["pct"] = "%",
        ["kmh"] = "km/h",
    };

    private static readonly HashSet<string> Initials = ["id", "url", "uuid", "vat", "iban", "gps"];

    /// <summary>
    /// The label of a field: <c>opened_on</c> gives “Opened on”, <c>length_m</c> “Length (m)”, <c>bridgeId</c> “Bridge ID”.
    /// </summary>
    public static string OfField(string name)
    {
        var words = Words(name);
        var unit = words.Count > 1 && Units.TryGetValue(words[^1], out var sign) ? sign : null;
        if (unit is not null)
            words.RemoveAt(words.Count - 1);
        return Sentence(words) + (unit is null ? "" : $" ({unit})");
    }

    /// <summary>The label of a field whose values have their unit: <c>length_m</c> gives “Length”.</summary>
    public static string WithoutUnit(string name)
    {
        var words = Words(name);
        return Sentence(words.Count > 1 && Units.ContainsKey(words[^1]) ? words[..^1] : words);
    }

    /// <summary>The label of a foreign key that shows the other record: <c>district_id</c> gives “District”.</summary>
    public static string OfReference(string name)
    {
        var words = Words(name);
        if (words.Count > 1 && words[^1] is "id" or "key" or "code" or "no")
            words.RemoveAt(words.Count - 1);
        return Sentence(words);
    }

    /// <summary>The heading of a page from its name: <c>bridges-open</c> gives “Bridges open”.</summary>
    public static string OfPage(string name) => Sentence(Words(name));

    /// <summary>One record, in a sentence: <c>bridge_span</c> gives “bridge span”.</summary>
    public static string OfRecord(string name) => string.Join(' ', Words(name));

    /// <summary>The usual English plural of a noun.</summary>
    public static string Plural(string one) =>
        one switch
        {
            _ when one.EndsWith('y') && one.Length > 1 && !"aeiou".Contains(one[^2]) => one[..^1] + "ies",
            _ when one.EndsWith('s')
                    || one.EndsWith('x')
                    || one.EndsWith("ch", StringComparison.Ordinal)
                    || one.EndsWith("sh", StringComparison.Ordinal) => one + "es",
            _ => one + "s",
        };

    /// <summary>The text with its first letter in upper case.</summary>
    public static string Capital(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    private static string Sentence(List<string> words) =>
        Capital(string.Join(' ', words.Select(word => Initials.Contains(word) ? word.ToUpperInvariant() : word)));

    private static List<string> Words(string name)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        for (var i = 0; i < name.Length; i++)
        {
            var c = name[i];
            var begins =
                i > 0 && char.IsUpper(c) && (char.IsLower(name[i - 1]) || (i + 1 < name.Length && char.IsLower(name[i + 1])));
            if ((begins || c is '_' or '-' or ' ' or '.') && word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }

            if (c is not ('_' or '-' or ' ' or '.'))
                word.Append(char.ToLowerInvariant(c));
        }

        if (word.Length > 0)
            words.Add(word.ToString());
        return words.Count == 0 ? [name] : words;
    }
}
