using System.Buffers;
using System.Text;
using System.Text.RegularExpressions;

namespace Jexa.Service.Clients;

/// <summary>
/// Writes a pattern of the app file as an ECMAScript regular expression that matches the same texts. Only constructs with the
/// same meaning are written; other patterns are checked by the service alone.
/// </summary>
internal static partial class ScriptPattern
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
                case '\\' when i + 1 < pattern.Length && Escapable.Contains(pattern[i + 1]):
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
                    if (Repetition().Match(pattern, i) is not { Success: true } times)
                        return null;
                    text.Append(times.Value);
                    i += times.Length - 1;
                    break;
                case '/':
                    text.Append(@"\/");
                    break;
                case var _ when char.IsAsciiLetterOrDigit(c) || Same.Contains(c):
                    text.Append(c);
                    break;
                default:
                    return null;
            }
        }

        return text.ToString();
    }

    private static readonly SearchValues<char> Escapable = SearchValues.Create(@".-/()[]{}*+?|^$\");

    /// <summary>Characters that mean the same in both notations.</summary>
    private static readonly SearchValues<char> Same = SearchValues.Create("()*+?| -_:,;=!@#%&~'\"<>");

    [GeneratedRegex(@"\G\{[0-9][0-9,]*\}")]
    private static partial Regex Repetition();

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
