using System.Text;

namespace Jexa.Service.Clients;

/// <summary>
/// Writes a pattern of the app file as an ECMAScript regular expression that matches the same texts. Only constructs with the
/// same meaning are written; other patterns are checked by the service alone.
/// </summary>
internal static class ScriptPattern
{
    /// <summary>The expression between its slashes; null if it cannot be written.</summary>
    public static string? Of(string pattern)
    {
        var text = new StringBuilder();
        for (var i = 0; i < pattern.Length; i++)
        {
            var c = pattern[i];
            switch (c)
            {
                case '\\'
                    when i + 1 < pattern.Length
                        && pattern[i + 1]
                            is '.'
                                or '-'
                                or '/'
                                or '('
                                or ')'
                                or '['
                                or ']'
                                or '{'
                                or '}'
                                or '*'
                                or '+'
                                or '?'
                                or '|'
                                or '^'
                                or '$'
                                or '\\':
                    // A hyphen outside a class must not be escaped there.
                    text.Append(pattern[i + 1] == '-' ? "-" : $"\\{pattern[i + 1]}");
                    i++;
                    break;
                case '\\' when i + 1 < pattern.Length && pattern[i + 1] == 'd':
                    text.Append(@"\p{Nd}");
                    i++;
                    break;
                case '[':
                    if (Class(pattern, i, text) is not { } end)
                        return null;
                    i = end;
                    break;
                case '.':
                    text.Append(@"[^\n]");
                    break;
                case '(' when i + 1 < pattern.Length && pattern[i + 1] == '?':
                    if (i + 2 >= pattern.Length || pattern[i + 2] != ':')
                        return null;
                    text.Append("(?:");
                    i += 2;
                    break;
                case '{':
                    var close = pattern.IndexOf('}', i);
                    if (
                        close < 0
                        || !pattern[(i + 1)..close].All(one => char.IsAsciiDigit(one) || one == ',')
                        || !char.IsAsciiDigit(pattern[i + 1])
                    )
                        return null;
                    text.Append(pattern, i, close - i + 1);
                    i = close;
                    break;
                case '/':
                    text.Append(@"\/");
                    break;
                case '('
                or ')'
                or '*'
                or '+'
                or '?'
                or '|'
                or ' '
                or '-'
                or '_'
                or ':'
                or ','
                or ';'
                or '='
                or '!'
                or '@'
                or '#'
                or '%'
                or '&'
                or '~'
                or '\''
                or '"'
                or '<'
                or '>':
                case >= '0' and <= '9' or >= 'A' and <= 'Z' or >= 'a' and <= 'z':
                    text.Append(c);
                    break;
                default:
                    return null;
            }
        }

        return text.ToString();
    }

    /// <summary>A class of plain ASCII characters and ranges. Returns where it ends.</summary>
    private static int? Class(string pattern, int start, StringBuilder into)
    {
        var end = pattern.IndexOf(']', start + 2);
        if (end < 0)
            return null;
        var inside = pattern[(start + 1)..end];
        if (!inside.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or ' ' or '.' or ':' or '/' or '^' or ',' or '+'))
            return null;
        var negated = inside[0] == '^';
        if (negated)
            inside = inside[1..];
        if (inside.Contains('^') || inside.Length == 0)
            return null;
        into.Append(negated ? "[^" : "[");
        for (var i = 0; i < inside.Length; i++)
        {
            if (i + 2 < inside.Length && inside[i + 1] == '-')
            {
                if (inside[i] > inside[i + 2] || inside[i] == '-' || inside[i + 2] == '-')
                    return null;
                into.Append(Plain(inside[i])).Append('-').Append(Plain(inside[i + 2]));
                i += 2;
                continue;
            }

            if (inside[i] == '-' && i > 0 && i < inside.Length - 1)
                return null;
            into.Append(Plain(inside[i]));
        }

        into.Append(']');
        return end;

        static string Plain(char c) => c is '-' or '/' ? $"\\{c}" : c.ToString();
    }
}
