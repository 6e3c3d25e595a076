using System.Text.RegularExpressions;

namespace Jexa.Core.Definitions;

/// <summary>
/// Finds parameters without quotes inside braces or brackets of YAML, such as <c>{ path: /lights/{id} }</c>. YAML ends the text
/// before them and reads mappings, which would cause many misleading findings.
/// </summary>
internal sealed partial class UnquotedBraces(string file, FindingList findings)
{
    /// <summary>Braces and brackets that are open.</summary>
    private int _depth;

    /// <summary>The open quote; NUL for none.</summary>
    private char _quote;

    /// <summary>Where the present text without quotes begins; -1 between texts.</summary>
    private int _begun = -1;

    /// <summary>The indentation of the line that a text of several lines belongs to; -1 outside of one.</summary>
    private int _hangsOn = -1;

    /// <summary>Reports each of them; false if there is none.</summary>
    public bool Report(string text)
    {
        var number = 0;
        var found = false;
        foreach (var line in text.AsSpan().EnumerateLines())
        {
            number++;
            if (IsOfHanging(line))
                continue;
            found |= ReportLine(line.ToString(), number);
        }

        return found;
    }

    private bool IsOfHanging(ReadOnlySpan<char> line)
    {
        if (_hangsOn < 0)
            return false;
        if (line.IsWhiteSpace() || line.IndexOfAnyExcept(' ') > _hangsOn)
            return true;
        _hangsOn = -1;
        return false;
    }

    private bool ReportLine(string line, int number)
    {
        var found = false;
        _begun = -1;
        var i = _depth > 0 || _quote != 0 ? 0 : BlockValue().Match(line).Length;
        for (; i < line.Length; i++)
        {
            var c = line[i];
            if (_quote != 0)
            {
                if (c == '\\' && _quote == '"')
                    i++;
                else if (c == _quote)
                    _quote = '\0';
            }
            else if (c == '#' && (i == 0 || char.IsWhiteSpace(line[i - 1])))
            {
                break;
            }
            else if (c is '"' or '\'' && _begun < 0)
            {
                _quote = c;
            }
            else if (_depth == 0 && c is not ('{' or '[') && !char.IsWhiteSpace(c))
            {
                // Outside of braces, a text goes on to the end of its line.
                if (c is '|' or '>' && Hanging().IsMatch(line[i..]))
                    _hangsOn = line.AsSpan().IndexOfAnyExcept(' ');
                break;
            }
            else if (c is '{' && Hole().Match(line, i) is { Success: true } hole && (_begun >= 0 || line[i + 1] == '?'))
            {
                found = true;
                Add(line, number, _begun >= 0 ? _begun : i, i + hole.Length);
                i += hole.Length - 1;
            }
            else
            {
                Step(line, c, i);
            }
        }

        return found;
    }

    private void Step(string line, char c, int at)
    {
        if (c is '{' or '[')
            (_depth, _begun) = (_depth + 1, -1);
        else if (c is '}' or ']')
            (_depth, _begun) = (Math.Max(0, _depth - 1), -1);
        else if (c == ',' || (c == ':' && (at + 1 == line.Length || char.IsWhiteSpace(line[at + 1]))))
            _begun = -1;
        else if (_begun < 0 && !char.IsWhiteSpace(c))
            _begun = at;
    }

    private void Add(string line, int number, int begun, int end)
    {
        while (
            end < line.Length
            && Hole().Match(line, end) is var more
            && (more.Success || line[end] is not (',' or '}' or ']' or '{'))
        )
            end += more.Success ? more.Length : 1;
        var text = line[begun..end].Trim();
        var key = Key().Match(line[..begun]) is { Success: true } before ? before.Groups[1].Value + ": " : "";
        findings.Add(
            FindingCodes.QuoteIt,
            new Place(file, number, begun + 1),
            $"YAML ends the text before “{{”, since it has no quotes and stands inside braces or brackets.",
            $"Quote it: {key}\"{text}\"",
            found: text,
            expected: "a text in quotes"
        );
    }

    /// <summary>What comes before a value outside of braces: keys and hyphens.</summary>
    [GeneratedRegex(@"^\s*(- +)*([A-Za-z0-9_.-]+:(\s+|$))?", RegexOptions.ExplicitCapture)]
    private static partial Regex BlockValue();

    [GeneratedRegex(@"^[|>][-+0-9]*\s*(#.*)?$", RegexOptions.ExplicitCapture)]
    private static partial Regex Hanging();

    [GeneratedRegex(@"\G\{\??[A-Za-z_][A-Za-z0-9_]*\*?(,[A-Za-z_][A-Za-z0-9_]*\*?)*\}", RegexOptions.ExplicitCapture)]
    private static partial Regex Hole();

    [GeneratedRegex(@"([A-Za-z0-9_.-]+):\s*$")]
    private static partial Regex Key();
}
