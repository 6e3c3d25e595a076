namespace Jexa.Core.Rewriting;

/// <summary>Where the values of an app file stand in its text, and what stands at a place of the text.</summary>
public sealed class FileMap
{
    private readonly string _text;
    private readonly TextNode _root;
    private readonly List<int> _lines = [0];

    internal FileMap(string mark, string text, TextNode root)
    {
        (Mark, _text, _root) = (mark, text, root);
        for (var at = text.IndexOf('\n'); at >= 0; at = text.IndexOf('\n', at + 1))
            _lines.Add(at + 1);
    }

    /// <summary>Reads a text. Null if it is no YAML that named changes can be made to.</summary>
    public static FileMap? Read(string text)
    {
        try
        {
            return new FileRewriter(text).Map;
        }
        catch (RewriteException)
        {
            return null;
        }
    }

    /// <summary>The byte order mark, if there is one. It counts as no column.</summary>
    internal string Mark { get; }

    /// <summary>The text without the mark.</summary>
    internal string Body => _text;

    internal TextNode Root => _root;

    /// <summary>What the text means.</summary>
    public FileValue Value => _root.Value;

    /// <summary>The value at a place. Null if there is none.</summary>
    public FileValue? Find(IReadOnlyList<string> place) => _root.At(place)?.Value;

    /// <summary>What stands at a line and column, both from 1: the innermost key or value.</summary>
    public MapEntry At(int line, int column)
    {
        var offset = line < 1 || line > _lines.Count ? _text.Length : Math.Min(_lines[line - 1] + column - 1, _text.Length);
        var (node, place, isKey, text) = (_root, new List<string>(), false, _root.Text);
        while (true)
        {
            if (node.Entries is { } entries && entries.FindLast(entry => entry.Key.Start <= offset) is { Key: { } key } found)
            {
                if (offset > found.Value.End && !node.IsBlock)
                    break;
                place.Add(key.Text!);
                if (offset <= key.End)
                {
                    (isKey, text) = (true, key.Text);
                    break;
                }

                (node, text) = (found.Value, found.Value.Text);
            }
            else if (node.Items is { } items && items.FindLastIndex(item => item.Start <= offset) is >= 0 and var index)
            {
                place.Add(index.ToString(System.Globalization.CultureInfo.InvariantCulture));
                (node, text) = (items[index], items[index].Text);
            }
            else
            {
                break;
            }
        }

        return new MapEntry(place, isKey, text);
    }

    /// <summary>Where the value at a place stands, with its key: line and column of its beginning and of its end, from 1.
    /// Null if nothing stands there.</summary>
    public MapRange? RangeOf(IReadOnlyList<string> place)
    {
        if (_root.At(place) is not { } node)
            return null;
        var key = place.Count > 0 ? _root.At(place.Take(place.Count - 1)) : null;
        var start = key?.IndexOf(place[^1]) is >= 0 and var index ? key.Entries![index].Key.Start : node.Start;
        return Range(start, node.End);
    }

    /// <summary>Where the key of the entry at a place stands. Null if nothing stands there, or if it is an item.</summary>
    public MapRange? RangeOfKey(IReadOnlyList<string> place) =>
        _root.At([.. place.Take(place.Count - 1)]) is { Entries: { } entries } map && map.IndexOf(place[^1]) is >= 0 and var index
            ? Range(entries[index].Key)
            : null;

    /// <summary>Where the value at a place stands, without its key. Null if nothing stands there.</summary>
    public MapRange? RangeOfValue(IReadOnlyList<string> place) => _root.At(place) is { } node ? Range(node) : null;

    private MapRange Range(TextNode node) => Range(node.Start, node.End);

    private MapRange Range(int start, int end)
    {
        var ((line, column), (endLine, endColumn)) = (PositionOf(start), PositionOf(Math.Max(start, end)));
        return new MapRange(line, column, endLine, endColumn);
    }

    private (int Line, int Column) PositionOf(int offset)
    {
        var line = _lines.BinarySearch(offset);
        if (line < 0)
            line = ~line - 1;
        return (line + 1, offset - _lines[line] + 1);
    }
}
