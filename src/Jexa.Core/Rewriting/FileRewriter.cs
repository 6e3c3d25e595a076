using YamlDotNet.Core;

namespace Jexa.Core.Rewriting;

/// <summary>
/// Changes single values in the text of an app file. Everything else stays as it is, byte for byte: comments, order, blank lines
/// and quotes. After each change the text is read back; a change that would mean anything else is refused.
/// </summary>
/// <remarks>
/// A place is a path of keys and, in lists, of numbers from 0: <c>pages</c>, <c>bridge</c>, <c>links</c>, <c>0</c>, <c>to</c>.
/// </remarks>
public sealed class FileRewriter
{
    /// <summary>The byte order mark, if there is one.</summary>
    private readonly string _mark;
    private readonly string _newLine;
    private readonly List<IReadOnlyList<Splice>> _undo = [];
    private string _body;
    private TextNode _root;

    /// <summary>Reads a text.</summary>
    /// <exception cref="RewriteException">The text is no app file that can be changed by named changes.</exception>
    public FileRewriter(string text)
    {
        _mark = text.StartsWith('\uFEFF') ? "\uFEFF" : "";
        _body = text[_mark.Length..];
        _newLine = NewLineOf(text);
        if (text.Replace("\r\n", "").Contains('\r'))
            throw new RewriteException("The file has carriage returns without line feeds: save it with usual line ends.");
        _root = TextTreeReader.Read(_body);
    }

    /// <summary>Changes a text that was read already.</summary>
    public FileRewriter(FileMap map)
    {
        (_mark, _body, _root) = (map.Mark, map.Body, map.Root);
        _newLine = NewLineOf(_body);
    }

    /// <summary>The text as it is now.</summary>
    public string Text => _mark + _body;

    /// <summary>
    /// The splices that undo all changes so far, the latest change first. Each list is for the text after the one before.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<Splice>> Undo => _undo;

    /// <summary>What the text means.</summary>
    public FileValue Value => _root.Value;

    /// <summary>Where the values stand in the text as it is now.</summary>
    public FileMap Map => new(_mark, _body, _root);

    /// <summary>The value at a place. Null if there is none.</summary>
    public FileValue? Find(params IReadOnlyList<string> place) => NodeAt(place)?.Value;

    /// <summary>The keys of a mapping, in the order of the file. Empty if there is no mapping.</summary>
    public IReadOnlyList<string> Keys(params IReadOnlyList<string> place) =>
        [.. (NodeAt(place)?.Entries ?? []).Select(entry => entry.Key.Text!)];

    /// <summary>Sets a value: replaces the one at the place, or adds an entry behind the last one of its mapping.</summary>
    public void Set(IReadOnlyList<string> place, FileValue value)
    {
        if (NodeAt(place) is { } node)
        {
            Make(Replaced(place, node, value), FileChange.Set(Value, place, value));
            return;
        }

        var (above, last) = (place.Take(place.Count - 1).ToList(), place[^1]);
        switch (NodeAt(above))
        {
            case null:
                Set(above, FileValue.Of((last, value)));
                break;
            case { IsNothing: true }:
            case { Entries.Count: 0 }:
                Set(above, FileValue.Of((last, value)));
                break;
            case { Entries: not null } map:
                Make(Added(map, last, value), FileChange.Set(Value, place, value));
                break;
            default:
                throw new RewriteException($"{Shown(above)} is no mapping, so it cannot have the key “{last}”.");
        }
    }

    /// <summary>Sets several values that are there already, in one step.</summary>
    public void SetAll(IReadOnlyList<(IReadOnlyList<string> Place, FileValue Value)> changes)
    {
        var splices = new List<Splice>();
        var expected = Value;
        foreach (var (place, value) in changes)
        {
            var node = NodeAt(place) ?? throw new RewriteException($"There is no {Shown(place)}.");
            splices.AddRange(Replaced(place, node, value));
            expected = FileChange.Set(expected, place, value);
        }

        if (splices.Count > 0)
            Make(splices, expected);
    }

    /// <summary>Removes an entry or an item, with the comments that belong to it.</summary>
    public void Remove(IReadOnlyList<string> place)
    {
        var above = NodeAt([.. place.Take(place.Count - 1)]);
        if (NodeAt(place) is null || above is null)
            throw new RewriteException($"There is no {Shown(place)}.");
        var expected = FileChange.Remove(Value, place);
        if (above.Entries is { Count: 1 } or { Count: 0 } || above.Items is { Count: 1 })
        {
            IReadOnlyList<string> whole = [.. place.Take(place.Count - 1)];
            FileValue empty = above.Entries is null ? new FileValue.List([]) : FileValue.Of();
            Make(Replaced(whole, above, empty), expected);
            return;
        }

        Make(
            above.Entries is not null ? RemovedEntry(above, above.IndexOf(place[^1])) : RemovedItem(above, Number(place)),
            expected
        );
    }

    /// <summary>Adds an item to a list, behind the last one. The list is made if there is none.</summary>
    public void Append(IReadOnlyList<string> place, FileValue item)
    {
        var node = NodeAt(place);
        if (node is null or { IsNothing: true } or { Items.Count: 0 })
        {
            Set(place, new FileValue.List([item]));
            return;
        }

        // A single text counts as a list of one.
        if (node.Text is not null)
        {
            Set(place, new FileValue.List([node.Value, item]));
            return;
        }

        if (node.Items is not { } items)
            throw new RewriteException($"{Shown(place)} is a mapping, not a list.");
        var expected = FileChange.Set(Value, place, new FileValue.List([.. items.Select(one => one.Value), item]));
        if (node.IsFlow)
        {
            Make([new Splice(items[^1].End, 0, SeparatorOf(items) + ValueText.Flow(item))], expected);
            return;
        }

        var dash = Lines.DashOf(items[^1]);
        var text = $"{_newLine}{new string(' ', Lines.Column(dash))}- {ValueText.Block(item, Lines.Column(dash) + 2, _newLine)}";
        Make([new Splice(Lines.EndOf(items[^1].End), 0, text)], expected);
    }

    /// <summary>Moves an item of a list to another number in it, with the comments that belong to it.</summary>
    public void Move(IReadOnlyList<string> place, int to)
    {
        var list = NodeAt([.. place.Take(place.Count - 1)]);
        if (NodeAt(place) is null || list?.Items is not { } items)
            throw new RewriteException($"There is no {Shown(place)} in a list.");
        if (to < 0 || to >= items.Count)
            throw new RewriteException($"{Shown(place)} cannot be moved to {to}: the list has {items.Count} items.");
        var from = Number(place);
        if (from == to)
            return;
        IReadOnlyList<string> whole = [.. place.Take(place.Count - 1)];
        var order = Enumerable.Range(0, items.Count).ToList();
        order.RemoveAt(from);
        order.Insert(to, from);
        var expected = FileChange.Set(Value, whole, new FileValue.List([.. order.Select(number => items[number].Value)]));
        Make(list.IsFlow ? Swapped(items, order) : Carried(items, from, to), expected);
    }

    /// <summary>Items in brackets change places: what stands between them stays.</summary>
    private List<Splice> Swapped(List<TextNode> items, List<int> order) =>
        [
            .. order
                .Select((number, at) => (From: items[number], To: items[at]))
                .Where(pair => pair.From != pair.To)
                .Select(pair => new Splice(
                    pair.To.Start,
                    pair.To.End - pair.To.Start,
                    _body.Substring(pair.From.Start, pair.From.End - pair.From.Start)
                )),
        ];

    /// <summary>An item of a block goes as whole lines.</summary>
    private List<Splice> Carried(List<TextNode> items, int from, int to)
    {
        var lines = Lines.Without(Lines.DashOf(items[from]), items[from].End);
        var text = _body.Substring(lines.Start, lines.Length);
        var at = to < from ? Lines.Without(Lines.DashOf(items[to]), items[to].End).Start : Lines.Behind(items[to].End);
        if (!text.EndsWith('\n'))
            text = text.TrimStart('\r', '\n') + _newLine;
        else if (at > 0 && _body[at - 1] != '\n')
            text = _newLine + text.TrimEnd('\r', '\n');
        return [lines, new Splice(at, 0, text)];
    }

    /// <summary>Gives a key another name.</summary>
    public void Rename(IReadOnlyList<string> place, string key)
    {
        var above = NodeAt([.. place.Take(place.Count - 1)]);
        if (above?.IndexOf(place[^1]) is not (>= 0 and var index))
            throw new RewriteException($"There is no {Shown(place)}.");
        if (above.IndexOf(key) >= 0)
            throw new RewriteException($"{Shown([.. place.Take(place.Count - 1), key])} is there already.");
        var old = above.Entries![index].Key;
        var text = ValueText.Flow(FileValue.Of(key), old.Style is ScalarStyle.Plain ? ScalarStyle.Any : old.Style);
        Make([new Splice(old.Start, old.End - old.Start, text)], FileChange.Rename(Value, place, key));
    }

    /// <summary>Adds an entry to a mapping as lines of their own.</summary>
    /// <param name="behind">The key whose entry it is to follow. Null for the end.</param>
    /// <param name="lines">The lines, without indentation; the first one begins with the key.</param>
    public void AddLines(IReadOnlyList<string> place, string? behind, string key, IReadOnlyList<string> lines)
    {
        var map = NodeAt(place);
        if (map is not { IsBlock: true, Entries: { Count: > 0 } entries })
        {
            Set([.. place, key], ((FileValue.Map)TextTreeReader.Read(string.Join('\n', lines)).Value).Entries[0].Value);
            return;
        }

        var at = behind is null ? entries.Count - 1 : map.IndexOf(behind);
        if (at < 0 || map.IndexOf(key) >= 0)
            throw new RewriteException(
                at < 0 ? $"There is no {Shown([.. place, behind!])}." : $"{Shown([.. place, key])} is there already."
            );
        var pad = new string(' ', Lines.Column(map.Start));
        var text = string.Concat(lines.Select(line => line.Length == 0 ? _newLine : _newLine + pad + line));
        var value = ((FileValue.Map)TextTreeReader.Read(string.Join('\n', lines)).Value).Entries[0].Value;
        Make([new Splice(Lines.EndOf(entries[at].Value.End), 0, text)], FileChange.Insert(Value, place, at + 1, key, value));
    }

    private TextLines Lines => new(_body, _newLine);

    /// <summary>The line break of a text.</summary>
    public static string NewLineOf(string text) => text.Contains("\r\n", StringComparison.Ordinal) ? "\r\n" : "\n";

    private IReadOnlyList<Splice> Replaced(IReadOnlyList<string> place, TextNode node, FileValue value)
    {
        var like =
            value is FileValue.Text && node.Style is ScalarStyle.SingleQuoted or ScalarStyle.DoubleQuoted
                ? node.Style
                : ScalarStyle.Any;
        if (IsInFlow(place))
            return [new Splice(node.Start, node.End - node.Start, Spaced(node, ValueText.Flow(value, like)))];
        var indent = KeyOf(place) is { } key ? Lines.Column(key.Start) : 0;
        var text = ValueText.Block(value, indent, _newLine, like);
        if (!node.IsBlock || KeyOf(place) is not { } own)
            return [new Splice(node.Start, node.End - node.Start, Spaced(node, text))];

        // A block stands below its key: the new value stands behind the key, and the lines of the block go.
        var colon = _body.IndexOf(':', own.End) + 1;
        var from = Lines.StartOf(node.Items is null ? node.Start : Lines.DashOf(node.Items[0]));
        return [new Splice(colon, 0, " " + text), new Splice(from - _newLine.Length, node.End - from + _newLine.Length, "")];
    }

    /// <summary>A value behind a key that had none needs a blank.</summary>
    private string Spaced(TextNode node, string text) =>
        node.Start == node.End && node.Start > 0 && _body[node.Start - 1] == ':' && text.Length > 0 ? " " + text : text;

    private IReadOnlyList<Splice> Added(TextNode map, string key, FileValue value)
    {
        var last = map.Entries![^1];
        if (map.IsFlow)
        {
            var separator = SeparatorOf([.. map.Entries.Select(entry => entry.Key)]);
            return [new Splice(last.Value.End, 0, $"{separator}{ValueText.Key(key, true)}: {ValueText.Flow(value)}")];
        }

        var column = Lines.Column(last.Key.Start);
        var written = value is FileValue.Text { IsNothing: true } ? "" : " " + ValueText.Block(value, column, _newLine);
        var line = $"{_newLine}{new string(' ', column)}{ValueText.Key(key, false)}:{written}";
        return [new Splice(Lines.EndOf(last.Value.End), 0, line)];
    }

    private IReadOnlyList<Splice> RemovedEntry(TextNode map, int index)
    {
        var entries = map.Entries!;
        var (key, value) = entries[index];
        if (map.IsFlow)
            return
            [
                Between(
                    index == 0 ? null : entries[index - 1].Value,
                    key,
                    value,
                    index + 1 < entries.Count ? entries[index + 1].Key : null
                ),
            ];

        // The first entry of a list's item stands behind the hyphen.
        if (index == 0 && !Lines.IsFirst(key.Start))
            return [new Splice(key.Start, entries[1].Key.Start - key.Start, "")];
        return [Lines.Without(key.Start, value.End)];
    }

    private IReadOnlyList<Splice> RemovedItem(TextNode list, int index)
    {
        var items = list.Items!;
        var item = items[index];
        if (list.IsFlow)
            return [Between(index == 0 ? null : items[index - 1], item, item, index + 1 < items.Count ? items[index + 1] : null)];
        return [Lines.Without(Lines.DashOf(item), item.End)];
    }

    /// <summary>A part of a list or mapping in brackets, with one of the commas around it.</summary>
    private static Splice Between(TextNode? before, TextNode first, TextNode last, TextNode? after) =>
        after is not null ? new Splice(first.Start, after.Start - first.Start, "")
        : before is not null ? new Splice(before.End, last.End - before.End, "")
        : new Splice(first.Start, last.End - first.Start, "");

    /// <summary>
    /// What stands between two parts of a list or mapping in brackets: as between its last two, else a comma and a blank.
    /// </summary>
    private string SeparatorOf(IReadOnlyList<TextNode> parts)
    {
        if (parts.Count == 0 || !Lines.IsFirst(parts[^1].Start))
            return ", ";
        return $",{_newLine}{new string(' ', Lines.Column(parts[^1].Start))}";
    }

    /// <summary>Makes the splices, reads the text back, and refuses if it means something else.</summary>
    private void Make(IReadOnlyList<Splice> splices, FileValue expected)
    {
        var text = Splice.Apply(_body, splices);
        TextNode root;
        try
        {
            root = TextTreeReader.Read(text);
        }
        catch (RewriteException)
        {
            throw new RewriteException(
                "This change cannot be made here without touching what stands around it: change the text."
            );
        }

        if (!root.Value.Equals(expected))
            throw new RewriteException(
                "This change cannot be made here without touching what stands around it: change the text."
            );
        _undo.Insert(
            0,
            [.. Splice.Inverse(_body, splices).Select(splice => splice with { Start = splice.Start + _mark.Length })]
        );
        (_body, _root) = (text, root);
    }

    private TextNode? NodeAt(IEnumerable<string> place) => _root.At(place);

    /// <summary>The key of the entry at a place. Null for the root and for items.</summary>
    private TextNode? KeyOf(IReadOnlyList<string> place) =>
        place.Count > 0 && NodeAt([.. place.Take(place.Count - 1)]) is { Entries: { } entries } above
            ? entries[above.IndexOf(place[^1])].Key
            : null;

    private bool IsInFlow(IReadOnlyList<string> place) =>
        Enumerable.Range(0, place.Count).Any(count => NodeAt([.. place.Take(count)])?.IsFlow == true);

    private static int Number(IReadOnlyList<string> place) =>
        int.Parse(place[^1], System.Globalization.CultureInfo.InvariantCulture);

    private static string Shown(IReadOnlyList<string> place) => place.Count == 0 ? "the file" : string.Join('.', place);
}
