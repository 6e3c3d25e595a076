using System.Text.RegularExpressions;

namespace Jexa.Core.Keys;

/// <summary>
/// The form that the texts of a field have, as the app file declares it: what tells a malformed ID from an unknown one.
/// Patterns match the whole text, in time linear in its length.
/// </summary>
/// <param name="Pattern">Null for any text.</param>
/// <param name="MaxLength">The most characters (UTF-16 units); null for no limit of its own.</param>
/// <param name="Example">A text of this form, shown to visitors; null for none.</param>
public sealed record TextForm(string? Pattern, int? MaxLength, string? Example)
{
    private const RegexOptions Options = RegexOptions.NonBacktracking | RegexOptions.CultureInvariant;

    public static TextForm Any { get; } = new(null, null, null);

    /// <summary>
    /// Whether a pattern can be used: a regular expression without look-around and back references, and not too large.
    /// </summary>
    public static bool IsPattern(string pattern)
    {
        try
        {
            // Exactly what is used later: round a pattern, or without regard to case, the same can be too large.
            var form = new TextForm(pattern, null, null);
            _ = form.Whole(ignoreCase: false);
            _ = form.Whole(ignoreCase: true);
            return true;
        }
        catch (Exception wrong) when (wrong is ArgumentException or NotSupportedException or OverflowException)
        {
            return false;
        }
    }

    /// <summary>The pattern over a whole text; null if there is none.</summary>
    /// <param name="ignoreCase">For columns that fold case, whose other spellings lead to the canonical one.</param>
    public Regex? Whole(bool ignoreCase) =>
        Pattern is null ? null : new Regex($@"\A(?:{Pattern})\z", ignoreCase ? Options | RegexOptions.IgnoreCase : Options);
}
