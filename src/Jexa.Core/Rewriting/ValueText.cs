using System.Globalization;
using System.Text;
using YamlDotNet.Core;

namespace Jexa.Core.Rewriting;

/// <summary>Writes values as YAML that reads back as the same value.</summary>
internal static class ValueText
{
    /// <summary>A value in one line, as it can stand in brackets.</summary>
    public static string Flow(FileValue value, ScalarStyle like = ScalarStyle.Any) =>
        value switch
        {
            FileValue.Text text => Scalar(text, inFlow: true, like),
            FileValue.List list => list.Items.Count == 0 ? "[]" : $"[{string.Join(", ", list.Items.Select(item => Flow(item)))}]",
            FileValue.Map map => map.Entries.Count == 0
                ? "{}"
                : $"{{ {string.Join(", ", map.Entries.Select(entry => $"{Key(entry.Key, true)}: {Flow(entry.Value)}"))} }}",
            _ => throw new ArgumentOutOfRangeException(nameof(value)),
        };

    /// <summary>A value behind a key outside of brackets, without the blank before it.</summary>
    /// <param name="indent">The column of the key, from 0.</param>
    /// <param name="newLine">The file's line break.</param>
    public static string Block(FileValue value, int indent, string newLine, ScalarStyle like = ScalarStyle.Any) =>
        value is FileValue.Text { Value: var text } scalar && text.Contains('\n')
            ? Lines(text, indent + 2, newLine) ?? Scalar(scalar, inFlow: false, ScalarStyle.DoubleQuoted)
        : value is FileValue.Text one ? Scalar(one, inFlow: false, like)
        : Flow(value);

    /// <summary>A key, without its colon.</summary>
    public static string Key(string key, bool inFlow) => Scalar(new FileValue.Text(key), inFlow, ScalarStyle.Any);

    private static string Scalar(FileValue.Text value, bool inFlow, ScalarStyle like)
    {
        if (value.IsNothing)
            return "";
        var text = value.Value;
        if (like is ScalarStyle.DoubleQuoted || text.Any(IsSpecial))
            return DoubleQuoted(text);
        return like is ScalarStyle.SingleQuoted ? $"'{text.Replace("'", "''")}'"
            : IsPlain(text, inFlow) ? text
            : DoubleQuoted(text);
    }

    private static bool IsSpecial(char c) => char.IsControl(c) || c is '\u0085' or '\u2028' or '\u2029' or '\uFEFF';

    /// <summary>Whether the text reads as itself without quotes.</summary>
    private static bool IsPlain(string text, bool inFlow) =>
        text.Length > 0
        && text[0] != ' '
        && text[^1] != ' '
        && (!"-?:,[]{}#&*!|>'\"%@`=".Contains(text[0]) || (text[0] == '-' && text.Length > 1 && char.IsAsciiLetter(text[1])))
        && !text.EndsWith(':')
        && !text.Contains(": ", StringComparison.Ordinal)
        && !text.Contains(" #", StringComparison.Ordinal)
        && !(inFlow && text.AsSpan().ContainsAny(",[]:"))
        && !text.AsSpan().ContainsAny('{', '}')
        && text is not ("~" or "null" or "Null" or "NULL" or "---" or "...");

    private static string DoubleQuoted(string text)
    {
        var quoted = new StringBuilder("\"");
        foreach (var c in text)
            quoted.Append(
                c switch
                {
                    '"' => "\\\"",
                    '\\' => "\\\\",
                    '\n' => "\\n",
                    '\r' => "\\r",
                    '\t' => "\\t",
                    _ when IsSpecial(c) => $"\\u{((int)c).ToString("X4", CultureInfo.InvariantCulture)}",
                    _ => c.ToString(),
                }
            );
        return quoted.Append('"').ToString();
    }

    /// <summary>A text with several lines as a block. Null if a block cannot hold it.</summary>
    private static string? Lines(string text, int indent, string newLine)
    {
        var ends = text.Length - text.TrimEnd('\n').Length;
        var lines = text[..^ends].Split('\n');
        if (
            ends > 1
            || lines[0].Length == 0
            || lines[0][0] is ' ' or '\t'
            || lines.Any(line => line.Any(IsSpecial) || (line.Length > 0 && string.IsNullOrWhiteSpace(line)))
        )
            return null;
        var pad = new string(' ', indent);
        var body = lines.Select(line => line.Length == 0 ? "" : pad + line);
        return $"|{(ends == 0 ? "-" : "")}{newLine}{string.Join(newLine, body)}";
    }
}
