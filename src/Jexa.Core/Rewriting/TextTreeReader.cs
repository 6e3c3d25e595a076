using Jexa.Core.Definitions;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace Jexa.Core.Rewriting;

/// <summary>Reads the text of an app file into nodes that know their places.</summary>
internal sealed class TextTreeReader
{
    private readonly string _text;
    private readonly Scanner _scanner;
    private readonly Parser _parser;

    private TextTreeReader(string text)
    {
        _text = text;
        _scanner = new Scanner(new StringReader(text));
        _parser = new Parser(_scanner);
    }

    /// <summary>The text's root mapping.</summary>
    /// <exception cref="RewriteException">The text is no app file that can be changed by named changes.</exception>
    public static TextNode Read(string text)
    {
        var reader = new TextTreeReader(text);
        try
        {
            return reader.ReadDocument();
        }
        catch (YamlException wrong)
        {
            throw new RewriteException(
                $"The file cannot be read as YAML at line {wrong.Start.Line}: mend its text first. "
                    + $"({wrong.Message.TrimEnd('.')}.)"
            );
        }
        catch (InvalidOperationException)
        {
            // The parser's own fault at brackets that are never closed.
            throw new RewriteException(
                $"The file cannot be read as YAML at line {reader._scanner.CurrentPosition.Line}: mend its text first. "
                    + "(Look for unbalanced brackets or braces.)"
            );
        }
    }

    private TextNode ReadDocument()
    {
        _parser.Consume<StreamStart>();
        if (_parser.Accept<StreamEnd>(out _))
            throw new RewriteException("The file is empty: begin it with app, sources, records and pages.");
        _parser.Consume<DocumentStart>();
        var root = ReadNode(0);
        _parser.Consume<DocumentEnd>();
        if (_parser.Accept<DocumentStart>(out _))
            throw new RewriteException("The file has a second document: remove the line of hyphens and what follows.");
        return root.Entries is not null
            ? root
            : throw new RewriteException("The file is no mapping: begin it with app, sources, records and pages.");
    }

    private TextNode ReadNode(int depth)
    {
        var current = _parser.Current!;
        _parser.MoveNext();
        var line = current.Start.Line;
        if (current is AnchorAlias or NodeEvent { Anchor.IsEmpty: false } or NodeEvent { Tag.IsEmpty: false })
            throw new RewriteException($"Line {line} has an alias, anchor or tag: write the value out.");
        if (depth > AppFileTree.MaxDepth)
            throw new RewriteException($"Line {line} is nested too deep.");
        return current switch
        {
            Scalar scalar => ReadScalar(scalar),
            SequenceStart list => ReadList(list, depth),
            MappingStart map => ReadMap(map, depth),
            _ => throw new RewriteException($"Line {line} cannot be read."),
        };
    }

    private TextNode ReadScalar(Scalar scalar)
    {
        var (start, end) = ((int)scalar.Start.Index, (int)scalar.End.Index);
        if (scalar.Style is ScalarStyle.Literal or ScalarStyle.Folded)
            end = EndOfBlock(start, end);
        return new TextNode
        {
            Start = start,
            End = end,
            Style = scalar.Style,
            Text = scalar.Value,
        };
    }

    /// <summary>Blank lines and comments behind a block text belong to what follows, unless it keeps its blank lines.</summary>
    private int EndOfBlock(int start, int end)
    {
        var head = _text[start..LineEnd(start)];
        end = Math.Min(end, _text.Length);
        if (head.TrimStart('|', '>', '1', '2', '3', '4', '5', '6', '7', '8', '9', '-').StartsWith('+'))
            return end > start && _text[end - 1] == '\n' ? end - LengthOfBreak(end) : end;
        while (end > start && char.IsWhiteSpace(_text[end - 1]))
            end--;
        return end;
    }

    private int LengthOfBreak(int end) => end > 1 && _text[end - 2] == '\r' ? 2 : 1;

    private int LineEnd(int at) => _text.IndexOf('\n', at) is >= 0 and var end ? end : _text.Length;

    private TextNode ReadList(SequenceStart start, int depth)
    {
        var items = new List<TextNode>();
        while (_parser.Current is not SequenceEnd)
            items.Add(ReadNode(depth + 1));
        var end = _parser.Consume<SequenceEnd>();
        var isFlow = start.Style == SequenceStyle.Flow;
        return new TextNode
        {
            Start = (int)start.Start.Index,
            End = isFlow ? (int)end.Start.Index + 1 : items[^1].End,
            IsFlow = isFlow,
            Items = items,
        };
    }

    private TextNode ReadMap(MappingStart start, int depth)
    {
        var entries = new List<(TextNode, TextNode)>();
        var keys = new HashSet<string>();
        while (_parser.Current is not MappingEnd)
        {
            var key = ReadNode(depth + 1);
            CheckKey(key, keys);
            entries.Add((key, ReadNode(depth + 1)));
        }

        var end = _parser.Consume<MappingEnd>();
        var isFlow = start.Style == MappingStyle.Flow;
        return new TextNode
        {
            Start = isFlow ? (int)start.Start.Index : entries[0].Item1.Start,
            End = isFlow ? (int)end.Start.Index + 1 : entries[^1].Item2.End,
            IsFlow = isFlow,
            Entries = entries,
        };
    }

    private void CheckKey(TextNode key, HashSet<string> keys)
    {
        var line = _text.AsSpan(0, key.Start).Count('\n') + 1;
        if (key.Text is not { } name || key.Style is ScalarStyle.Literal or ScalarStyle.Folded)
            throw new RewriteException($"Line {line} has a key that is no single text: write key: value.");
        if (!keys.Add(name))
            throw new RewriteException($"Line {line} has the key “{name}” a second time: remove one of them.");
        var after = key.End;
        while (after < _text.Length && _text[after] is ' ')
            after++;
        if (after >= _text.Length || _text[after] != ':')
            throw new RewriteException($"Line {line} has a key without its colon behind it: write key: value.");
    }
}
