using System.Text;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace Jexa.Core.Definitions;

/// <summary>
/// Turns the bytes of an app file into nodes. Size, depth and scalar length are limited, so that no file can exhaust the process.
/// Aliases, anchors and tags are refused.
/// </summary>
internal static class AppFileTree
{
    public const int MaxBytes = 4 * 1024 * 1024;
    public const int MaxDepth = 32;
    public const int MaxScalar = 64 * 1024;

    public static Node? Read(string file, ReadOnlySpan<byte> bytes, FindingList findings)
    {
        var top = new Place(file, 1, 1);
        if (Text(bytes, top, findings) is not { } text || new UnquotedBraces(file, findings).Report(text))
            return null;
        var builder = new Builder(file, text, findings);
        try
        {
            return builder.ReadDocument();
        }
        catch (YamlException wrong)
        {
            findings.Add(
                FindingCodes.NotYaml,
                new Place(file, Math.Max(1, (int)wrong.Start.Line), Math.Max(1, (int)wrong.Start.Column)),
                $"The text cannot be read as YAML here: {Sentence(wrong.Message)}",
                "Look for an unclosed quote or bracket, a tab, or uneven indentation.",
                expected: "YAML 1.2 or JSON"
            );
            return null;
        }
        catch (InvalidOperationException)
        {
            // The parser's own fault at brackets that are never closed.
            findings.Add(
                FindingCodes.NotYaml,
                builder.Reached,
                "The text cannot be read as YAML here.",
                "Look for unbalanced brackets or braces.",
                expected: "YAML 1.2 or JSON"
            );
            return null;
        }
    }

    /// <summary>The file's text. Null, and reported, if it is too large or no text.</summary>
    private static string? Text(ReadOnlySpan<byte> bytes, Place top, FindingList findings)
    {
        if (bytes.Length > MaxBytes)
        {
            findings.Add(
                FindingCodes.FileTooLarge,
                top,
                $"The file has {bytes.Length:N0} bytes.",
                "Check that this is the app file; one for a thousand pages has about 300,000 bytes.",
                expected: $"at most {MaxBytes:N0} bytes"
            );
            return null;
        }

        if (Decode(bytes) is { } text)
            return text;
        findings.Add(
            FindingCodes.FileNotText,
            top,
            "The file is not UTF-8 text.",
            "Check that this is the app file, and save it as UTF-8.",
            expected: "YAML or JSON in UTF-8"
        );
        return null;
    }

    private static string? Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith("\uFEFF"u8))
            bytes = bytes[3..];
        if (bytes.Contains((byte)0))
            return null;
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    private static string Sentence(string message)
    {
        var line = message.ReplaceLineEndings(" ").Trim();
        return line.EndsWith('.') ? line : line + ".";
    }

    /// <summary>Builds nodes from the parser's events; the depth limit bounds the recursion.</summary>
    private sealed class Builder
    {
        private readonly string _file;
        private readonly FindingList _findings;
        private readonly Scanner _scanner;
        private readonly Parser _parser;

        public Builder(string file, string text, FindingList findings)
        {
            (_file, _findings) = (file, findings);
            _scanner = new Scanner(new StringReader(text));
            _parser = new Parser(_scanner);
        }

        /// <summary>Where reading has come to.</summary>
        public Place Reached => At(_scanner.CurrentPosition);

        public Node? ReadDocument()
        {
            _parser.Consume<StreamStart>();
            if (_parser.Accept<StreamEnd>(out _))
                return Empty(new Place(_file, 1, 1));
            _parser.Consume<DocumentStart>();
            var root = ReadNode(0);
            if (root is null)
                return null;
            _parser.Consume<DocumentEnd>();
            if (_parser.Accept<DocumentStart>(out var second))
            {
                _findings.Add(
                    FindingCodes.SeveralDocuments,
                    At(second.Start),
                    "A second document begins here.",
                    "Keep one app to a file: remove the line of hyphens and what follows.",
                    expected: "one document"
                );
                return null;
            }

            return root is ScalarNode { Text.Value.Length: 0 } ? Empty(root.At) : root;
        }

        private Node? Empty(Place at)
        {
            _findings.Add(
                FindingCodes.FileEmpty,
                at,
                "The file says nothing.",
                "Begin with the line: app: NAME OF THE APP",
                expected: "app, sources, records and pages"
            );
            return null;
        }

        /// <summary>Null stops the reading. The finding says why.</summary>
        private Node? ReadNode(int depth)
        {
            // The parser's current event is the next one to read.
            var current = _parser.Current!;
            _parser.MoveNext();
            var at = At(current.Start);
            if (
                current is AnchorAlias
                || current is NodeEvent { Anchor.IsEmpty: false }
                || current is NodeEvent { Tag.IsEmpty: false }
            )
            {
                _findings.Add(
                    FindingCodes.AliasOrTag,
                    at,
                    "App files have no aliases (*name), anchors (&name) or tags (!name).",
                    "Write the value out, or put quotes around a text that begins with *, & or !.",
                    expected: "a text, a list or a mapping"
                );
                return null;
            }

            if (depth > MaxDepth)
            {
                _findings.Add(
                    FindingCodes.TooDeep,
                    at,
                    $"The text is nested more than {MaxDepth} levels deep here.",
                    "Look for brackets that are not closed.",
                    expected: $"at most {MaxDepth} levels"
                );
                return null;
            }

            return current switch
            {
                Scalar scalar => ReadScalar(scalar, at),
                SequenceStart => ReadSequence(at, depth),
                MappingStart => ReadMapping(at, depth),
                _ => Unread(at),
            };
        }

        /// <summary>The parser takes what is lacking here, such as the key before a colon, for an end.</summary>
        private Node? Unread(Place at)
        {
            _findings.Add(
                FindingCodes.NotYaml,
                at,
                "The text cannot be read as YAML here.",
                "Look for a colon without a key before it, or a question mark at the beginning of a line.",
                expected: "YAML 1.2 or JSON"
            );
            return null;
        }

        private ScalarNode? ReadScalar(Scalar scalar, Place at)
        {
            if (scalar.Value.Length > MaxScalar)
            {
                _findings.Add(
                    FindingCodes.TextTooLong,
                    at,
                    $"This text has {scalar.Value.Length:N0} characters.",
                    "Look for a quote that is not closed.",
                    expected: $"at most {MaxScalar:N0} characters"
                );
                return null;
            }

            var plain = scalar.Style == ScalarStyle.Plain;
            var quotes = scalar.Style is ScalarStyle.SingleQuoted or ScalarStyle.DoubleQuoted ? 1 : 0;
            var oneRun =
                scalar.End.Line == scalar.Start.Line
                && scalar.End.Column - scalar.Start.Column == scalar.Value.Length + (2 * quotes);
            return new ScalarNode(
                new Written(scalar.Value, at.Right(quotes)) { IsOneRun = oneRun },
                plain,
                at,
                (int)scalar.End.Line
            );
        }

        private SequenceNode? ReadSequence(Place at, int depth)
        {
            var items = new List<Node>();
            while (!_parser.TryConsume<SequenceEnd>(out _))
            {
                if (ReadNode(depth + 1) is not { } item)
                    return null;
                items.Add(item);
            }

            return new SequenceNode(items, at);
        }

        private MappingNode? ReadMapping(Place at, int depth)
        {
            var entries = new List<MappingEntry>();
            while (!_parser.TryConsume<MappingEnd>(out _))
            {
                if (ReadNode(depth + 1) is not { } key || ReadNode(depth + 1) is not { } value)
                    return null;
                entries.Add(new MappingEntry(key, value));
            }

            return new MappingNode(entries, at);
        }

        private Place At(Mark mark) => new(_file, (int)mark.Line, (int)mark.Column);
    }
}
