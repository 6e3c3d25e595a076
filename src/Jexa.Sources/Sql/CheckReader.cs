using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>
/// Reads check constraints about one column: <c>status IN ('open', 'closed')</c>, <c>severity BETWEEN 1 AND 4</c>, <c>score &gt;=
/// 0</c>, <c>length(code) &lt;= 20</c>, alone or joined by AND. Other checks are ignored here; the engine still enforces them.
/// </summary>
internal static partial class CheckReader
{
    public static IReadOnlyList<ColumnCheck> Read(string createTable) => [.. Bodies(createTable).SelectMany(ReadOne)];

    /// <summary>What one check says, by its condition alone.</summary>
    public static IEnumerable<ColumnCheck> ReadOne(string condition) =>
        Parts(Bare(condition)).SelectMany(part => Bare(part) == part ? Single(part) : ReadOne(part));

    /// <summary>What the checks and the declared type (<c>VARCHAR(40)</c>, <c>DECIMAL(7, 1)</c>) say about a column.</summary>
    public static ColumnRules RulesOf(ColumnSchema column, IReadOnlyList<ColumnCheck> checks)
    {
        var own = checks.Where(check => check.Column.Equals(column.Name, StringComparison.OrdinalIgnoreCase)).ToList();
        var size = Size().Match(column.DeclaredType);
        var first = size.Success ? int.Parse(size.Groups[1].Value, CultureInfo.InvariantCulture) : (int?)null;
        var second =
            size.Success && size.Groups[2].Success ? int.Parse(size.Groups[2].Value, CultureInfo.InvariantCulture) : (int?)null;
        var isDecimal = column.Type == FieldType.Decimal && first is not null;
        var lengths = own.Select(check => check.MaxLength)
            .Append(column.Type == FieldType.Text ? first : null)
            .OfType<int>()
            .ToList();
        return new ColumnRules(
            own.Find(check => check.OneOf is not null)?.OneOf,
            own.Max(check => check.Least),
            own.Min(check => check.Most),
            lengths.Count == 0 ? null : lengths.Min(),
            isDecimal ? first : null,
            isDecimal ? second ?? 0 : null
        );
    }

    /// <summary>The text in the parentheses after each CHECK.</summary>
    private static IEnumerable<string> Bodies(string sql)
    {
        for (var i = 0; i < sql.Length; i++)
        {
            if (sql[i] is '\'' or '"' or '`' or '[')
                i = EndOfQuoted(sql, i);
            else if (sql.AsSpan(i).StartsWith("--"))
                i = EndOf(sql, "\n", i);
            else if (sql.AsSpan(i).StartsWith("/*"))
                i = EndOf(sql, "*/", i);
            else if (IsWord(sql, i, "CHECK"))
            {
                var open = sql.IndexOf('(', i);
                if (open < 0)
                    yield break;
                var close = Closing(sql, open);
                if (close < 0)
                    yield break;
                yield return sql[(open + 1)..close];
                i = close;
            }
        }
    }

    private static int EndOf(string sql, string mark, int from) =>
        sql.IndexOf(mark, from, StringComparison.Ordinal) is var end && end < 0 ? sql.Length : end;

    private static bool IsWord(string sql, int at, string word) =>
        sql.AsSpan(at).StartsWith(word, StringComparison.OrdinalIgnoreCase)
        && (at == 0 || !IsNamePart(sql[at - 1]))
        && (at + word.Length == sql.Length || !IsNamePart(sql[at + word.Length]));

    private static bool IsNamePart(char c) => char.IsLetterOrDigit(c) || c is '_' or '$';

    private static int EndOfQuoted(string sql, int open)
    {
        var close = sql.IndexOf(sql[open] == '[' ? ']' : sql[open], open + 1);
        return close < 0 ? sql.Length : close;
    }

    private static int Closing(string sql, int open)
    {
        var depth = 0;
        for (var i = open; i < sql.Length; i++)
        {
            if (sql[i] is '\'' or '"' or '`' or '[')
                i = EndOfQuoted(sql, i);
            else if (sql[i] == '(')
                depth++;
            else if (sql[i] == ')' && --depth == 0)
                return i;
        }

        return -1;
    }

    /// <summary>The parts joined by AND at the top level. The AND of a BETWEEN does not count.</summary>
    private static IEnumerable<string> Parts(string body)
    {
        var start = 0;
        var between = false;
        for (var i = 0; i < body.Length; i++)
        {
            if (body[i] is '\'' or '"' or '`' or '[')
                i = EndOfQuoted(body, i);
            else if (body[i] == '(')
                i = Math.Max(i, Closing(body, i));
            else if (IsWord(body, i, "BETWEEN"))
                between = true;
            else if (IsWord(body, i, "OR"))
                yield break;
            else if (IsWord(body, i, "AND"))
            {
                if (between)
                {
                    between = false;
                    continue;
                }

                yield return body[start..i].Trim();
                start = i + 3;
            }
        }

        yield return body[start..].Trim();
    }

    private static IEnumerable<ColumnCheck> Single(string part) => Check(part) is { } check ? [check] : [];

    /// <summary>Without parentheses around the whole.</summary>
    private static string Bare(string condition)
    {
        var bare = condition.Trim();
        while (bare.StartsWith('(') && Closing(bare, 0) == bare.Length - 1)
            bare = bare[1..^1].Trim();
        return bare;
    }

    private static ColumnCheck? Check(string part)
    {
        if (OneOfCheck().Match(part) is { Success: true } oneOf)
            return Literals(oneOf.Groups[2].Value) is { } values ? new ColumnCheck(Name(oneOf), values, null, null, null) : null;
        if (BetweenCheck().Match(part) is { Success: true } range)
            return new ColumnCheck(Name(range), null, Number(range.Groups[2]), Number(range.Groups[3]), null);
        if (LengthCheck().Match(part) is { Success: true } length)
            return new ColumnCheck(
                Name(length),
                null,
                null,
                null,
                (int)Number(length.Groups[3]) - (length.Groups[2].Value == "<" ? 1 : 0)
            );
        if (LimitCheck().Match(part) is not { Success: true } limit)
            return null;

        // A strict limit is exact only for whole numbers, and the literal does not tell the type. The engine enforces it.
        return limit.Groups[2].Value switch
        {
            ">=" => new ColumnCheck(Name(limit), null, Number(limit.Groups[3]), null, null),
            "<=" => new ColumnCheck(Name(limit), null, null, Number(limit.Groups[3]), null),
            _ => null,
        };
    }

    private static string Name(Match match) => match.Groups[1].Value.Trim('"', '`', '[', ']');

    private static decimal Number(Group group) => decimal.Parse(group.Value, CultureInfo.InvariantCulture);

    /// <summary>The literals of a list; null if it contains something else.</summary>
    private static List<string>? Literals(string list)
    {
        var values = new List<string>();
        var at = 0;
        foreach (Match match in Literal().Matches(list))
        {
            if (list[at..match.Index].Trim().Trim(',').Trim().Length > 0)
                return null;
            values.Add(match.Value.StartsWith('\'') ? match.Value[1..^1].Replace("''", "'") : match.Value);
            at = match.Index + match.Length;
        }

        return list[at..].Trim().Length == 0 && values.Count > 0 ? values : null;
    }

    private const string NameForm = """("[^"]+"|`[^`]+`|\[[^\]]+\]|[\p{L}_][\p{L}\p{N}_$]*)""";
    private const string NumberForm = @"(-?\d{1,18}(?:\.\d{1,9})?)";

    [GeneratedRegex($@"^{NameForm}\s+IN\s*\((.*)\)$", RegexOptions.IgnoreCase | RegexOptions.Singleline)]
    private static partial Regex OneOfCheck();

    [GeneratedRegex($@"^{NameForm}\s+BETWEEN\s+{NumberForm}\s+AND\s+{NumberForm}$", RegexOptions.IgnoreCase)]
    private static partial Regex BetweenCheck();

    [GeneratedRegex($@"^(?:char_)?length\s*\(\s*{NameForm}\s*\)\s*(<=|<)\s*(\d{{1,6}})$", RegexOptions.IgnoreCase)]
    private static partial Regex LengthCheck();

    [GeneratedRegex($@"^{NameForm}\s*(>=|<=|>|<)\s*{NumberForm}$", RegexOptions.IgnoreCase)]
    private static partial Regex LimitCheck();

    [GeneratedRegex(@"'(?:[^']|'')*'|-?\d+(?:\.\d+)?")]
    private static partial Regex Literal();

    [GeneratedRegex(@"\(\s*(\d{1,6})\s*(?:,\s*(\d{1,6})\s*)?\)")]
    private static partial Regex Size();
}
