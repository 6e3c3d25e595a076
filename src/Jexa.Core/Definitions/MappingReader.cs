namespace Jexa.Core.Definitions;

/// <summary>
/// Reads one mapping of an app file key by key. Each read reports what is wrong with its key and returns what can still be used.
/// <see cref="Finish"/> reports keys that nobody read, so that the list of valid keys always matches the code.
/// </summary>
internal sealed class MappingReader
{
    private readonly Dictionary<string, MappingEntry> _entries = [];
    private readonly List<string> _known = [];
    private readonly FindingList _findings;
    private readonly string _what;

    private MappingReader(MappingNode mapping, string what, FindingList findings)
    {
        _what = what;
        _findings = findings;
        At = mapping.At;
        foreach (var entry in mapping.Entries)
        {
            if (entry.Key is not ScalarNode { Text: var key })
            {
                findings.Add(
                    FindingCodes.WrongShape,
                    entry.Key.At,
                    $"A key of {what} must be a text.",
                    "Write key: value.",
                    found: entry.Key.Shape,
                    expected: "a text"
                );
            }
            else if (!_entries.TryAdd(key.Value, entry))
            {
                findings.Add(
                    FindingCodes.DuplicateKey,
                    key.At,
                    $"{Capital(what)} has the key “{key}” twice.",
                    "Remove one of the two.",
                    found: key.Value,
                    expected: "each key once"
                );
            }
        }
    }

    public Place At { get; }

    /// <summary>The entries with their names, for mappings whose keys the developer chooses.</summary>
    public IEnumerable<(Written Name, Node Value)> Named
    {
        get
        {
            foreach (var (name, entry) in _entries)
            {
                _known.Add(name);
                yield return (((ScalarNode)entry.Key).Text, entry.Value);
            }
        }
    }

    /// <summary>A reader for a mapping; null, and reported, if the node is not a mapping.</summary>
    /// <param name="what">What the mapping is, to follow "of": <c>the page “bridges”</c>.</param>
    public static MappingReader? Of(Node node, string what, FindingList findings)
    {
        if (node is MappingNode mapping)
            return new MappingReader(mapping, what, findings);
        findings.Add(
            FindingCodes.WrongShape,
            node.At,
            $"{Capital(what)} must be a mapping.",
            "Write key: value, one a line, indented below.",
            found: node.Shape,
            expected: "a mapping"
        );
        return null;
    }

    public bool Has(string key)
    {
        _known.Add(key);
        return _entries.ContainsKey(key);
    }

    /// <summary>The value of a key, whatever its form; null if it is absent.</summary>
    public Node? Value(string key)
    {
        _known.Add(key);
        return _entries.TryGetValue(key, out var entry) ? entry.Value : null;
    }

    /// <summary>The place of the key, or of the mapping if the key is absent.</summary>
    public Place PlaceOf(string key) => _entries.TryGetValue(key, out var entry) ? entry.Key.At : At;

    public Written? Text(string key) => Value(key) is { } node ? AsText(node, key, _findings) : null;

    public Written? RequiredText(string key, string example)
    {
        if (Has(key))
            return Text(key);
        _findings.Add(
            new Finding(
                Code: FindingCodes.MissingKey,
                At: At,
                Message: $"{Capital(_what)} lacks the key “{key}”.",
                Remedy: $"Add the line: {key}: {example}",
                Found: null,
                Expected: key,
                Nearest: Nearest.To(key, _entries.Keys)
            )
        );
        return null;
    }

    /// <summary>A list of texts; a single text counts as a list of one.</summary>
    public IReadOnlyList<Written> Texts(string key)
    {
        if (Value(key) is not { } node)
            return [];
        var items = node is SequenceNode list ? list.Items : [node];
        return [.. items.Select(item => AsText(item, key, _findings)).OfType<Written>()];
    }

    public IReadOnlyList<Node> Items(string key)
    {
        if (Value(key) is not { } node)
            return [];
        if (node is SequenceNode list)
            return list.Items;
        if (node is ScalarNode { Text.Value.Length: 0 })
            return [];
        _findings.Add(
            FindingCodes.WrongShape,
            node.At,
            $"“{key}” must be a list.",
            "Begin each item on a line of its own with a hyphen and a blank.",
            found: node.Shape,
            expected: "a list"
        );
        return [];
    }

    /// <summary>A whole number within limits; null if it is absent or, reported, not a number.</summary>
    public int? Number(string key, int least, int most)
    {
        if (Text(key) is not { } word)
            return null;
        if (int.TryParse(word.Value, out var number) && number >= least && number <= most)
            return number;
        _findings.Add(
            FindingCodes.UnknownWord,
            word.At,
            $"“{word}” is not a number that “{key}” can be.",
            $"Write a whole number from {least:N0} to {most:N0}.",
            found: word.Value,
            expected: $"a whole number from {least:N0} to {most:N0}"
        );
        return null;
    }

    public bool Flag(string key)
    {
        if (Text(key) is not { } word)
            return false;
        if (word.Value is not ("true" or "false"))
            _findings.AddUnknown(FindingCodes.UnknownWord, word, "answer", ["true", "false"]);
        return word.Value == "true";
    }

    /// <summary>Reports every key that was not read.</summary>
    public void Finish()
    {
        foreach (var (key, entry) in _entries)
            if (!_known.Contains(key))
                _findings.AddUnknown(
                    FindingCodes.UnknownKey,
                    ((ScalarNode)entry.Key).Text,
                    $"key of {_what} called",
                    _known.Distinct()
                );
    }

    public static Written? AsText(Node node, string key, FindingList findings)
    {
        if (node is ScalarNode { Text.Value.Length: > 0 } scalar)
            return scalar.Text;
        if (node is MappingNode { Entries: [{ Key: ScalarNode inner, Value: ScalarNode { Text.Value.Length: 0 } }] })
        {
            findings.Add(
                FindingCodes.QuoteIt,
                node.At,
                $"YAML reads {{{inner.Text}}} without quotes as a mapping.",
                $"Quote it: {key}: \"{{{inner.Text}}}\"",
                found: $"{{{inner.Text}}}",
                expected: "a text in quotes"
            );
            return null;
        }

        findings.Add(
            FindingCodes.WrongShape,
            node.At,
            $"“{key}” must be a text.",
            $"Write {key}: and a text behind it.",
            found: node.Shape,
            expected: "a text"
        );
        return null;
    }

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
