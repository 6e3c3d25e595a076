using Jexa.Core.Definitions;

namespace Jexa.Core.Rewriting;

/// <summary>The change that mends a finding, if one is known to be safe.</summary>
public static class Remedy
{
    /// <summary>
    /// Puts the nearest valid name in place of the one that was found: as a key, as a value, or inside a text. Null if the
    /// finding names no other one, or if what was found does not stand there.
    /// </summary>
    public static NamedChange? Of(Finding finding, FileMap map)
    {
        if (finding.Nearest is not { Length: > 0 } nearest || finding.Found is not { Length: > 0 } found)
            return null;
        var there = map.At(finding.At.Line, finding.At.Column);
        if (there.Text is not { } text)
            return null;
        if (text == found)
            return there.IsKey
                ? new NamedChange.RenameKey(there.Place, nearest)
                : new NamedChange.SetValue(there.Place, FileValue.Of(nearest));
        // In a text with holes, in a path, in “source.table”: only if the word is there exactly once.
        var at = text.IndexOf(found, StringComparison.Ordinal);
        return !there.IsKey && at >= 0 && text.IndexOf(found, at + 1, StringComparison.Ordinal) < 0
            ? new NamedChange.SetValue(there.Place, FileValue.Of(text[..at] + nearest + text[(at + found.Length)..]))
            : null;
    }
}
