using System.Text;

namespace Jexa.Sources.Sql;

/// <summary>
/// Finds the named parameters (<c>:name</c>, and what else the engine accepts) in a developer's own query, outside of texts,
/// quoted names and comments.
/// </summary>
/// <param name="signs">The signs before a parameter.</param>
/// <param name="quotes">The quotes of texts and names.</param>
/// <param name="backslashes">Whether a backslash escapes the next character of a text.</param>
internal sealed class SqlScript(string signs, string quotes, bool backslashes)
{
    /// <summary>The query with replaced parameters, and without a semicolon at its end.</summary>
    public string Fill(string query, Func<string, string> valueOf)
    {
        var filled = new StringBuilder(query.Length + 32);
        var at = 0;
        while (at < query.Length)
        {
            var end = EndOfPiece(query, at);
            if (IsParameter(query, at, end))
                filled.Append(valueOf(query[(at + 1)..end]));
            else if (IsComment(query, at))
                filled.Append(' ');
            else
                filled.Append(query, at, end - at);
            at = end;
        }

        return filled.ToString().TrimEnd().TrimEnd(';').TrimEnd();
    }

    /// <summary>The names of the parameters, each once, in order.</summary>
    public IReadOnlyList<string> Parameters(string query)
    {
        var names = new List<string>();
        for (var at = 0; at < query.Length; at = EndOfPiece(query, at))
        {
            var end = EndOfPiece(query, at);
            if (IsParameter(query, at, end) && !names.Contains(query[(at + 1)..end]))
                names.Add(query[(at + 1)..end]);
        }

        return names;
    }

    /// <summary>Whether it has a semicolon anywhere but at its end: more than one statement.</summary>
    public bool HasSeveral(string query)
    {
        var filled = Fill(query, _ => "?");
        for (var at = 0; at < filled.Length; at = EndOfPiece(filled, at))
            if (filled[at] == ';')
                return true;
        return false;
    }

    private bool IsParameter(string query, int at, int end) =>
        signs.Contains(query[at]) && end - at > 1 && query[at + 1] != query[at];

    private static bool IsComment(string query, int at) => Starts(query, at, "--") || Starts(query, at, "/*");

    /// <summary>The end of the piece that begins here: a text, a quoted name, a comment, a parameter, or one character.</summary>
    private int EndOfPiece(string query, int at)
    {
        if (Starts(query, at, "--"))
            return IndexOr(query, '\n', at);
        if (Starts(query, at, "/*"))
            return query.IndexOf("*/", at + 2, StringComparison.Ordinal) is var close and >= 0 ? close + 2 : query.Length;

        // A doubled sign belongs to the engine: a cast or an operator.
        if (Starts(query, at, "::"))
            return at + 2;
        if (query[at] == '[' && quotes.Contains('['))
            return IndexOr(query, ']', at);
        if (quotes.Contains(query[at]))
            return EndOfQuoted(query, at);
        return signs.Contains(query[at]) ? EndOfName(query, at + 1) : at + 1;
    }

    private int EndOfQuoted(string query, int open)
    {
        for (var i = open + 1; i < query.Length; i++)
        {
            if (backslashes && query[i] == '\\')
                i++;
            else if (query[i] == query[open])
                return i + 1;
        }

        return query.Length;
    }

    private static int EndOfName(string query, int at)
    {
        // A number is an array index, not a name.
        if (at < query.Length && char.IsAsciiDigit(query[at]))
            return at;
        while (at < query.Length && (char.IsLetterOrDigit(query[at]) || query[at] == '_'))
            at++;
        return at;
    }

    private static int IndexOr(string query, char wanted, int from) =>
        from < query.Length && query.IndexOf(wanted, from) is var found and >= 0 ? found : query.Length;

    private static bool Starts(string query, int at, string piece) =>
        string.CompareOrdinal(query, at, piece, 0, piece.Length) == 0;
}
