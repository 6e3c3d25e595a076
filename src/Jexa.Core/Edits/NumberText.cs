using System.Text.RegularExpressions;
using Jexa.Core.Formats;

namespace Jexa.Core.Edits;

/// <summary>
/// Numbers as the app's locale writes them, in inputs of forms and nowhere else. In JSON and inside Jexa a number has a point and
/// no groups.
/// </summary>
public static partial class NumberText
{
    /// <summary>Whether the input must be a text input: browsers' number inputs accept only a point.</summary>
    public static bool IsTyped(FormField field) =>
        field.Input == InputKind.Number && field.Conventions.Numbers.NumberDecimalSeparator != ".";

    /// <summary>A plain number as the input shows it. Other text is unchanged.</summary>
    public static string Shown(FormField field, string plain) =>
        IsTyped(field) && PlainNumber().IsMatch(plain)
            ? plain.Replace(".", field.Conventions.Numbers.NumberDecimalSeparator)
            : plain;

    /// <summary>
    /// Reads what was typed as a plain number. If the locale uses another decimal mark, a point is a fault, unless it separates
    /// groups of three digits. Guessing could read 1.500 as 1.5.
    /// </summary>
    public static (string Text, string? Fault) Read(FormField field, string typed)
    {
        if (field.Input is not (InputKind.Number or InputKind.Whole))
            return (typed, null);
        var text = typed.Trim();
        var numbers = field.Conventions.Numbers;
        var mark = Regex.Escape(numbers.NumberDecimalSeparator);

        // Keyboards have no narrow or non-breaking blanks.
        var group = string.IsNullOrWhiteSpace(numbers.NumberGroupSeparator)
            ? @"[\s\u00a0\u202f]"
            : Regex.Escape(numbers.NumberGroupSeparator);
        var match = Regex.Match(
            text,
            $@"^(?<sign>[-+−]?)(?<whole>\d{{1,3}}(?:{group}\d{{3}})+|\d+)(?:{mark}(?<rest>\d+))?(?<power>[eE][-+]?\d+)?$",
            RegexOptions.CultureInvariant
        );
        if (match.Success && text.All(c => !char.IsDigit(c) || char.IsAsciiDigit(c)))
        {
            var whole = string.Concat(match.Groups["whole"].Value.Where(char.IsAsciiDigit));
            var rest = match.Groups["rest"] is { Success: true, Value: var digits } ? "." + digits : "";
            return ($"{match.Groups["sign"].Value.Replace('−', '-')}{whole}{rest}{match.Groups["power"].Value}", null);
        }

        return IsTyped(field) && PlainNumber().IsMatch(text)
            ? (typed, $"“{text}” is not a number as this app writes them; write one like {Example(field.Conventions)}.")
            : (typed, null);
    }

    /// <summary>A number as a locale writes it: “3.5”.</summary>
    public static string Example(Conventions conventions) => 3.5m.ToString("0.0", conventions.Numbers);

    [GeneratedRegex(@"^[-+]?\d+(\.\d+)?([eE][-+]?\d+)?$", RegexOptions.ExplicitCapture)]
    private static partial Regex PlainNumber();
}
