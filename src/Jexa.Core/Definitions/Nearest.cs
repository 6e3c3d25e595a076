namespace Jexa.Core.Definitions;

/// <summary>Finds the valid word that a misspelt one probably meant.</summary>
public static class Nearest
{
    /// <summary>
    /// The most similar word: at most a third of its letters differ, or it only continues the text. Letter case does not count.
    /// Null if none is similar enough.
    /// </summary>
    public static string? To(string word, IEnumerable<string> valid)
    {
        if (word.Length > 100)
            return null;
        var best = valid
            .Select(candidate => (candidate, distance: Distance(word.ToLowerInvariant(), candidate.ToLowerInvariant())))
            .OrderBy(pair => pair.distance)
            .FirstOrDefault((candidate: "", distance: int.MaxValue));
        var isNear =
            best.distance <= Math.Max(1, word.Length / 3)
            || (word.Length >= 3 && best.candidate.StartsWith(word, StringComparison.OrdinalIgnoreCase));
        return isNear ? best.candidate : null;
    }

    /// <summary>The number of insertions, deletions, substitutions and swaps of neighbours between two texts.</summary>
    public static int Distance(string a, string b)
    {
        var rows = new int[3][];
        for (var i = 0; i < 3; i++)
            rows[i] = new int[b.Length + 1];
        for (var j = 0; j <= b.Length; j++)
            rows[0][j] = j;
        for (var i = 1; i <= a.Length; i++)
        {
            var (row, above, twoAbove) = (rows[i % 3], rows[(i + 2) % 3], rows[(i + 1) % 3]);
            row[0] = i;
            for (var j = 1; j <= b.Length; j++)
            {
                row[j] = Math.Min(Math.Min(above[j], row[j - 1]) + 1, above[j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1));
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                    row[j] = Math.Min(row[j], twoAbove[j - 2] + 1);
            }
        }

        return rows[a.Length % 3][b.Length];
    }
}
