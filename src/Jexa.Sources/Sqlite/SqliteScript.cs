using System.Text;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// Finds the named parameters (<c>:name</c>, <c>@name</c>, <c>$name</c>) in a query of the developer's own, past its texts,
/// quoted names and comments.
/// </summary>
internal static class SqliteScript
{
    /// <summary>The query with each named parameter replaced, and without what ends it.</summary>
    public static string Fill(string query, Func<string, string> valueOf)
    {
        var filled = new StringBuilder(query.Length + 32);
        var at = 0;
        while (at < query.Length)
        {
            var end = EndOfPiece(query, at);
            if (IsParameter(query, at, end)) filled.Append(valueOf(query[(at + 1)..end]));
            else if (IsComment(query, at)) filled.Append(' ');
            else filled.Append(query, at, end - at);
            at = end;
        }

        return filled.ToString().TrimEnd().TrimEnd(';').TrimEnd();
    }

    /// <summary>The names of the parameters, each once, in order.</summary>
    public static IReadOnlyList<string> Parameters(string query)
    {
        var names = new List<string>();
        for (var at = 0; at < query.Length; at = EndOfPiece(query, at))
        {
            var end = EndOfPiece(query, at);
            if (IsParameter(query, at, end) && !names.Contains(query[(at + 1)..end])) names.Add(query[(at + 1)..end]);
        }

        return names;
    }

    private static bool IsParameter(string query, int at, int end) => query[at] is ':' or '@' or '$' && end - at > 1;

    private static bool IsComment(string query, int at) => Starts(query, at, "--") || Starts(query, at, "/*");

    /// <summary>Where the piece that begins here ends: a text, a quoted name, a comment, a parameter, or one character.</summary>
    private static int EndOfPiece(string query, int at)
    {
        if (Starts(query, at, "--")) return IndexOr(query, '\n', at);
        if (Starts(query, at, "/*")) return query.IndexOf("*/", at + 2, StringComparison.Ordinal) is var close and >= 0 ? close + 2 : query.Length;
        return query[at] switch
        {
            '\'' or '"' or '`' => IndexOr(query, query[at], at + 1) is var close && close < query.Length ? close + 1 : close,
            '[' => IndexOr(query, ']', at),
            ':' or '@' or '$' => EndOfName(query, at + 1),
            _ => at + 1,
        };
    }

    private static int EndOfName(string query, int at)
    {
        while (at < query.Length && (char.IsLetterOrDigit(query[at]) || query[at] == '_')) at++;
        return at;
    }

    private static int IndexOr(string query, char wanted, int from) =>
        from < query.Length && query.IndexOf(wanted, from) is var found and >= 0 ? found : query.Length;

    private static bool Starts(string query, int at, string piece) => string.CompareOrdinal(query, at, piece, 0, piece.Length) == 0;
}
