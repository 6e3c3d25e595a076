using System.Text;

namespace Jexa.Core.Endpoints;

/// <summary>
/// URI templates of endpoints (RFC 6570): literals, <c>{name}</c>, <c>{?a,b}</c> and <c>{&amp;a,b}</c>. Query parameters without
/// a value are left out. A path needs all of its values.
/// </summary>
public static class ApiTemplate
{
    /// <summary>What is wrong with a template, as a sentence; null if nothing is.</summary>
    public static string? FaultOf(string template)
    {
        if (template.Length == 0 || template[0] != '/' || template.StartsWith("//", StringComparison.Ordinal))
            return "it does not begin with one slash.";
        if (template.Split('?')[0].Split('/').Any(segment => segment is "." or ".."))
            return "a segment of it is nothing but dots.";
        for (var i = 0; i < template.Length; i++)
        {
            if (template[i] == '}')
                return "a brace is closed that was never opened.";
            if (template[i] <= ' ' || template[i] is '\\' or '#' or '"' or '<' or '>')
                return $"“{template[i]}” cannot stand in it.";
            if (template[i] != '{')
                continue;
            var close = template.IndexOf('}', i);
            if (close < 0)
                return "a brace is never closed.";
            if (
                Names(template[(i + 1)..close])
                    .Any(name => name.Length == 0 || !name.All(c => char.IsAsciiLetterOrDigit(c) || c == '_'))
            )
                return $"{template[i..(close + 1)]} names no parameter.";
            i = close;
        }

        return null;
    }

    /// <summary>The parameters, each once, in their order.</summary>
    public static IReadOnlyList<string> Parameters(string template)
    {
        var names = new List<string>();
        for (var i = template.IndexOf('{'); i >= 0; i = template.IndexOf('{', i + 1))
            foreach (var name in Names(template[(i + 1)..template.IndexOf('}', i)]))
                if (!names.Contains(name))
                    names.Add(name);
        return names;
    }

    /// <summary>
    /// The path and query string; null if a value cannot stand in a path: it is missing, empty, or a dot segment.
    /// </summary>
    public static string? Expand(string template, Func<string, string?> valueOf)
    {
        var expanded = new StringBuilder();
        var at = 0;
        while (at < template.Length)
        {
            if (template[at] != '{')
            {
                expanded.Append(template[at++]);
                continue;
            }

            var close = template.IndexOf('}', at);
            var inside = template[(at + 1)..close];
            var isQuery = inside[0] is '?' or '&';
            foreach (var name in Names(inside))
            {
                var value = valueOf(name);
                if (isQuery && value is null)
                    continue;
                if (!isQuery && (value is null or "" || HasDotSegment(value)))
                    return null;
                if (isQuery)
                    expanded.Append(expanded.ToString().Contains('?') ? '&' : '?').Append(name).Append('=');
                expanded.Append(Uri.EscapeDataString(value!));
            }

            at = close + 1;
        }

        var path = expanded.ToString();
        var end = path.IndexOf('?') is var question && question < 0 ? path.Length : question;
        return path[..end].Split('/').Any(segment => segment is "." or "..") ? null : path;
    }

    /// <summary>Whether a server that decodes slashes would read a dot segment in a value.</summary>
    private static bool HasDotSegment(string value) => value.Split('/', '\\').Any(part => part is "." or "..");

    private static IEnumerable<string> Names(string inside) => inside.TrimStart('?', '&').Split(',');
}
