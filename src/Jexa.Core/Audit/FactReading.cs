using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Jexa.Core.Audit;

/// <summary>
/// Reads what a text says in a form that does not depend on how it is written: a date in any of the usual orders, a number with
/// any marks, words in any case.
/// </summary>
public static partial class FactReading
{
    /// <summary>The names of months in five languages, by their first letters.</summary>
    private static readonly string[][] Months =
    [
        ["jan", "ene", "gen"],
        ["feb", "fév", "fev"],
        ["mar", "mär", "maer"],
        ["apr", "avr", "abr"],
        ["may", "mai", "mag"],
        ["jun", "juin", "giu"],
        ["jul", "juil", "lug"],
        ["aug", "aoû", "aou", "ago"],
        ["sep", "set"],
        ["oct", "okt", "ott"],
        ["nov"],
        ["dec", "dez", "déc", "dic"],
    ];

    /// <summary>Words in lower case, with one blank between them.</summary>
    public static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var letter in text.Normalize(NormalizationForm.FormC))
        {
            if (!char.IsWhiteSpace(letter))
                plain.Append(char.ToLowerInvariant(letter));
            else if (plain.Length > 0 && plain[^1] != ' ')
                plain.Append(' ');
        }

        return plain.ToString().Trim();
    }

    /// <summary>All dates that a text can mean, as <c>2024-02-29</c>. Where day and month could be either, both.</summary>
    public static IEnumerable<string> Dates(string text)
    {
        foreach (Match match in Iso().Matches(text))
            if (Date(match.Groups[1].Value, match.Groups[2].Value, match.Groups[3].Value) is { } date)
                yield return date;
        foreach (Match match in Ordered().Matches(text))
        {
            var (first, second, year) = (match.Groups[1].Value, match.Groups[2].Value, match.Groups[3].Value);
            if (Date(year, second, first) is { } dayFirst)
                yield return dayFirst;
            if (Date(year, first, second) is { } monthFirst)
                yield return monthFirst;
        }

        foreach (Match match in Worded().Matches(text))
        {
            var month = MonthOf(match.Groups["month"].Value);
            if (
                month > 0
                && Date(match.Groups["year"].Value, month.ToString(CultureInfo.InvariantCulture), match.Groups["day"].Value)
                    is { } date
            )
                yield return date;
        }
    }

    /// <summary>All numbers that a text can mean, without needless zeros: <c>1.234</c> is 1234 and 1.234.</summary>
    public static IEnumerable<string> Numbers(string text)
    {
        foreach (Match match in Number().Matches(text))
        {
            var digits = match.Value.Trim('.', ',', '\'', ' ', '\u00a0', '\u202f');
            var readings = new HashSet<string>();
            foreach (var mark in new[] { '.', ',' })
            {
                var kept = string.Concat(digits.Where(letter => char.IsAsciiDigit(letter) || letter == mark));
                if (
                    kept.Count(letter => letter == mark) <= 1
                    && decimal.TryParse(kept.Replace(mark, '.'), NumberStyles.Number, CultureInfo.InvariantCulture, out var value)
                )
                    readings.Add(Bare(value));
            }

            var whole = string.Concat(digits.Where(char.IsAsciiDigit));
            if (
                whole.Length is > 0 and < 28
                && decimal.TryParse(whole, NumberStyles.None, CultureInfo.InvariantCulture, out var all)
            )
                readings.Add(Bare(all));
            foreach (var reading in readings)
                yield return reading;
        }
    }

    private static string Bare(decimal value) => value.ToString("0.############################", CultureInfo.InvariantCulture);

    private static int MonthOf(string word)
    {
        var plain = word.ToLowerInvariant();
        return Array.FindIndex(Months, names => Array.Exists(names, name => plain.StartsWith(name, StringComparison.Ordinal)))
            + 1;
    }

    private static string? Date(string year, string month, string day) =>
        DateOnly.TryParseExact(
            $"{year}-{month.PadLeft(2, '0')}-{day.PadLeft(2, '0')}",
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var date
        )
            ? date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            : null;

    [GeneratedRegex(@"\b(\d{4})-(\d{2})-(\d{2})")]
    private static partial Regex Iso();

    [GeneratedRegex(@"\b(\d{1,2})[./](\d{1,2})[./](\d{4})\b")]
    private static partial Regex Ordered();

    [GeneratedRegex(
        @"\b(?:(?<day>\d{1,2})\.? (?:de )?(?<month>\p{L}{3,10})\.?,?(?: de)? (?<year>\d{4})|"
            + @"(?<month>\p{L}{3,10})\.? (?<day>\d{1,2}),? (?<year>\d{4}))\b"
    )]
    private static partial Regex Worded();

    [GeneratedRegex(@"\d(?:[\d.,'\u00a0\u202f]*\d)?")]
    private static partial Regex Number();
}
