using System.Buffers;
using System.Text;
using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>
/// The path of a page: literals, <c>{name}</c> (at most one in a segment) and, at the end, <c>{?a,b*}</c>. This is a subset of
/// RFC 6570. The same template matches and builds addresses. A parameter with a star may occur several times.
/// </summary>
public sealed class PathTemplate
{
    /// <summary>The names of the controls that every list has. A path cannot declare them.</summary>
    public static IReadOnlyList<string> ReservedParameters { get; } =
    ["find", "order", "size", "after", "before", "from", "lacking"];

    private static readonly SearchValues<char> NameCharacters = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_"
    );

    private static readonly SearchValues<char> NotInLiterals = SearchValues.Create("?#\\{}<>\"^`|");

    private PathTemplate(
        string text,
        IReadOnlyList<SegmentPattern> segments,
        IReadOnlyList<string> queryParameters,
        IReadOnlySet<string> repeated
    )
    {
        Repeated = repeated;
        Text = text;
        Segments = segments;
        QueryParameters = queryParameters;
        Parameters = [.. segments.Where(s => s.Parameter is not null).Select(s => s.Parameter!), .. queryParameters];
    }

    /// <summary>The template as it was written.</summary>
    public string Text { get; }

    /// <summary>The path's segments; the root path has none.</summary>
    public IReadOnlyList<SegmentPattern> Segments { get; }

    /// <summary>The names of the parameters that stand in the query string, in order.</summary>
    public IReadOnlyList<string> QueryParameters { get; }

    /// <summary>The query parameters that may occur several times (RFC 6570 section 2.4.2).</summary>
    public IReadOnlySet<string> Repeated { get; }

    /// <summary>All parameters: those of the path in order, then those of the query string.</summary>
    public IReadOnlyList<string> Parameters { get; }

    /// <summary>Whether two templates match the same paths; query strings do not count.</summary>
    public bool SharesPathWith(PathTemplate other)
    {
        // Each page is compared with each other one: nothing is allocated here.
        if (Segments.Count != other.Segments.Count)
            return false;
        for (var i = 0; i < Segments.Count; i++)
            if (!Segments[i].MatchesSameAs(other.Segments[i]))
                return false;
        return true;
    }

    /// <summary>Reads a template. Null, with at least one fault, if Jexa cannot match it.</summary>
    public static PathTemplate? Parse(string text, ICollection<TemplateFault> faults)
    {
        var before = faults.Count;
        if (!text.StartsWith('/'))
        {
            faults.Add(new TemplateFault(0, "A path begins with a slash.", $"Write /{text}."));
            return null;
        }

        var queryStart = text.IndexOf("{?", StringComparison.Ordinal);
        var path = queryStart < 0 ? text : text[..queryStart];
        var segments = new List<SegmentPattern>();
        if (path.Length > 1)
        {
            var offset = 1;
            foreach (var part in path[1..].Split('/'))
            {
                if (ParseSegment(part, offset, faults) is { } segment)
                    segments.Add(segment);
                offset += part.Length + 1;
            }
        }

        var repeated = new HashSet<string>();
        var query = queryStart < 0 ? [] : ParseQuery(text, queryStart, repeated, faults);
        if (segments.Count > 0 && segments[0].Literal == RequestTarget.ReservedSegment)
            faults.Add(new TemplateFault(1, "Addresses below /_jexa/ are Jexa's own.", "Begin the path with another word."));
        if (faults.Count > before)
            return null;

        var template = new PathTemplate(text, segments, query, repeated);
        foreach (var name in template.Parameters.GroupBy(name => name).Where(group => group.Count() > 1))
            faults.Add(
                new TemplateFault(
                    Math.Max(0, text.LastIndexOf(name.Key, StringComparison.Ordinal)),
                    $"The parameter {name.Key} stands twice in the path.",
                    "Give each parameter its own name."
                )
            );
        foreach (var name in template.Parameters.Where(ReservedParameters.Contains))
            faults.Add(
                new TemplateFault(
                    Math.Max(0, text.IndexOf(name, StringComparison.Ordinal)),
                    $"{name} is the name of a control that lists have.",
                    $"Choose a name other than {string.Join(", ", ReservedParameters)}."
                )
            );
        return faults.Count > before ? null : template;
    }

    /// <summary>
    /// Expands the template by RFC 6570 sections 3.2.2 and 3.2.8: an undefined (null) value is left out, an empty one is not. The
    /// address builder decides whether the result may be an address.
    /// </summary>
    public string Expand(Func<string, string?> valueOf)
    {
        using var into = new Utf8Buffer();
        if (Segments.Count == 0)
            into.Append("/"u8);
        foreach (var segment in Segments)
        {
            into.Append((byte)'/');
            Encode(segment.Literal ?? segment.Prefix, into);
            if (segment.Parameter is null)
                continue;
            Encode(valueOf(segment.Parameter) ?? "", into);
            Encode(segment.Suffix, into);
        }

        var separator = (byte)'?';
        foreach (var name in QueryParameters)
        {
            if (valueOf(name) is not { } value)
                continue;
            into.Append(separator);
            Encode(name, into);
            into.Append((byte)'=');
            Encode(value, into);
            separator = (byte)'&';
        }

        return into.ToString();
    }

    private static void Encode(string text, Utf8Buffer into) => PercentCoding.Encode(Encoding.UTF8.GetBytes(text), into);

    private static SegmentPattern? ParseSegment(string part, int offset, ICollection<TemplateFault> faults)
    {
        if (part.Length == 0)
        {
            faults.Add(
                new TemplateFault(
                    offset,
                    "The path has an empty segment.",
                    "Write one slash between segments and none at the end."
                )
            );
            return null;
        }

        var open = part.IndexOf('{');
        var close = part.IndexOf('}');
        if (open < 0 && close < 0)
            return ParseLiteral(part, offset, faults) is { } literal ? Whole(literal, offset, faults) : null;
        if (open < 0 || close < open)
        {
            faults.Add(new TemplateFault(offset + Math.Max(open, 0), "A brace is not paired.", "Write a parameter as {name}."));
            return null;
        }

        if (part.IndexOf('{', open + 1) >= 0)
        {
            faults.Add(
                new TemplateFault(
                    offset + part.IndexOf('{', open + 1),
                    "A segment can hold one parameter only.",
                    "Put a slash between the parameters."
                )
            );
            return null;
        }

        var name = part[(open + 1)..close];
        if (!CheckName(name, offset + open + 1, faults))
            return null;
        var prefix = ParseLiteral(part[..open], offset, faults);
        var suffix = ParseLiteral(part[(close + 1)..], offset + close + 1, faults);
        return prefix is null || suffix is null ? null : new SegmentPattern(null, prefix, name, suffix);
    }

    private static SegmentPattern? Whole(string literal, int offset, ICollection<TemplateFault> faults)
    {
        if (literal is not ("." or ".."))
            return SegmentPattern.OfLiteral(literal);
        faults.Add(new TemplateFault(offset, "A segment cannot be . or ..: browsers resolve it away.", "Name the segment."));
        return null;
    }

    private static string? ParseLiteral(string text, int offset, ICollection<TemplateFault> faults)
    {
        var wrong = text.AsSpan().IndexOfAny(NotInLiterals);
        if (wrong < 0)
            wrong = text.AsSpan().IndexOfAnyInRange('\0', ' ');
        if (wrong >= 0)
        {
            var remedy =
                text[wrong] == '?' ? "Write query parameters as {?name} at the end." : "Leave it out or percent-encode it.";
            faults.Add(
                new TemplateFault(offset + wrong, $"A path cannot hold the character “{Printable(text[wrong])}” here.", remedy)
            );
            return null;
        }

        if (!text.Contains('%'))
            return text;
        var ascii = string.Concat(
            text.EnumerateRunes().Select(rune => rune.IsAscii ? rune.ToString() : Uri.EscapeDataString(rune.ToString()))
        );
        if (PercentCoding.Decode(ascii, plusIsSpace: false) is { } decoded && !decoded.Contains('/'))
            return decoded;
        faults.Add(
            new TemplateFault(
                offset + text.IndexOf('%'),
                "The percent-encoding here cannot be read.",
                "Write % and two hexadecimal digits of UTF-8, never a slash, or the character itself."
            )
        );
        return null;
    }

    private static List<string> ParseQuery(string text, int start, HashSet<string> repeated, ICollection<TemplateFault> faults)
    {
        var names = new List<string>();
        var close = text.IndexOf('}', start);
        if (close < 0)
        {
            faults.Add(new TemplateFault(start, "A brace is not paired.", "Write query parameters as {?name}."));
            return names;
        }

        if (close != text.Length - 1)
            faults.Add(
                new TemplateFault(close + 1, "The query parameters must be the end of the path.", "Move {?…} to the end, once.")
            );
        var offset = start + 2;
        foreach (var word in text[(start + 2)..close].Split(','))
        {
            var name = word.EndsWith('*') ? word[..^1] : word;
            if (CheckName(name, offset, faults))
            {
                names.Add(name);
                if (word.Length > name.Length)
                    repeated.Add(name);
            }

            offset += word.Length + 1;
        }

        return names;
    }

    private static bool CheckName(string name, int offset, ICollection<TemplateFault> faults)
    {
        if (name.Length > 0 && !char.IsAsciiDigit(name[0]) && !name.AsSpan().ContainsAnyExcept(NameCharacters))
            return true;
        var message =
            name.Length == 0 ? "A parameter has no name."
            : "+#./;?&=,!@|".Contains(name[0]) ? $"The operator {name[0]} is not one that Jexa can match."
            : name.Contains('*') || name.Contains(':')
                ? "Modifiers such as :3 cannot be matched, and * only behind a name at the end."
            : $"“{name}” is not a parameter name.";
        faults.Add(
            new TemplateFault(offset, message, "Write {name} or, at the end, {?name,other}; a name has letters, digits and _.")
        );
        return false;
    }

    private static string Printable(char c) => c < ' ' ? $"U+{(int)c:X4}" : c.ToString();
}
