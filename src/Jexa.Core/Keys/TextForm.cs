using System.Text.RegularExpressions;

namespace Jexa.Core.Keys;

/// <summary>
/// The form of a field's texts, as the app file declares it. It tells a malformed ID from an unknown one. A pattern matches the
/// whole text, in linear time.
/// </summary>
/// <param name="Pattern">Null for any text.</param>
/// <param name="MaxLength">The most characters (UTF-16 units); null for no limit of its own.</param>
/// <param name="Example">A text of this form for visitors; null for none.</param>
public sealed record TextForm(string? Pattern, int? MaxLength, string? Example)
{
    private const RegexOptions Options = RegexOptions.NonBacktracking | RegexOptions.CultureInvariant;

    /// <summary>Text without a limit.</summary>
    public static TextForm Any { get; } = new(null, null, null);

    /// <summary>
    /// Whether a pattern can be used: a regular expression without look-around and back references, and not too large.
    /// </summary>
    public static bool IsPattern(string pattern)
    {
        try
        {
            // This is the expression that is used later. With its anchors, or without regard to case, it can be too large while
            // the bare pattern is not.
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

    /// <summary>The pattern for a whole text; null if there is none.</summary>
    /// <param name="ignoreCase">For columns that fold case: other spellings lead to the canonical one.</param>
    public Regex? Whole(bool ignoreCase) =>
        Pattern is null ? null : new Regex($@"\A(?:{Pattern})\z", ignoreCase ? Options | RegexOptions.IgnoreCase : Options);
}
