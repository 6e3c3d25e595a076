namespace Jexa.Core.Rewriting;

/// <summary>Two changed versions of one text, brought together line by line.</summary>
public static class LineMerge
{
    /// <summary>A run of lines that one version changed, or both.</summary>
    /// <param name="Base">The lines that both versions came from.</param>
    /// <param name="Mine">The lines of the one.</param>
    /// <param name="Theirs">The lines of the other.</param>
    /// <param name="Line">Where the lines begin in the text that both came from, from 1.</param>
    public sealed record Part(IReadOnlyList<string> Base, IReadOnlyList<string> Mine, IReadOnlyList<string> Theirs, int Line)
    {
        /// <summary>Whether both versions changed these lines, and differently.</summary>
        public bool IsConflict => !Same(Mine, Theirs) && !Same(Mine, Base) && !Same(Theirs, Base);
    }

    /// <summary>The parts of the text in order: what both have, and what one or both changed.</summary>
    public static IReadOnlyList<Part> Parts(string before, string mine, string theirs)
    {
        var (old, my, their) = (Lines(before), Lines(mine), Lines(theirs));
        var (keptMine, keptTheirs) = (Kept(before, mine, old.Length), Kept(before, theirs, old.Length));
        var parts = new List<Part>();
        var (o, m, t) = (0, 0, 0);
        for (var line = 0; line <= old.Length; line++)
        {
            // A line that both kept, or the end, closes the part before it.
            var isEnd = line == old.Length;
            if (!isEnd && (keptMine[line] < 0 || keptTheirs[line] < 0))
                continue;
            var (toMine, toTheirs) = isEnd ? (my.Length, their.Length) : (keptMine[line], keptTheirs[line]);
            if (line > o || toMine > m || toTheirs > t)
                parts.Add(new Part(old[o..line], my[m..toMine], their[t..toTheirs], o + 1));
            if (!isEnd)
                parts.Add(new Part([old[line]], [old[line]], [old[line]], line + 1));
            (o, m, t) = (line + 1, toMine + 1, toTheirs + 1);
        }

        return parts;
    }

    /// <summary>The merged text.</summary>
    /// <param name="takeMine">For each conflict in order, whether the lines of the one are taken.</param>
    /// <param name="newLine">The line end of the merged text.</param>
    public static string Merge(IReadOnlyList<Part> parts, IReadOnlyList<bool> takeMine, string newLine)
    {
        var lines = new List<string>();
        var conflict = 0;
        foreach (var part in parts)
            lines.AddRange(
                part.IsConflict ? (takeMine[conflict++] ? part.Mine : part.Theirs)
                : Same(part.Mine, part.Base) ? part.Theirs
                : part.Mine
            );
        return string.Join(newLine, lines);
    }

    private static string[] Lines(string text) => text.ReplaceLineEndings("\n").Split('\n');

    private static bool Same(IReadOnlyList<string> one, IReadOnlyList<string> other) => one.SequenceEqual(other);

    /// <summary>For each line of the former text its number in the new one, from 0; -1 if it is gone.</summary>
    private static int[] Kept(string before, string after, int count)
    {
        var differences = LineDifference.Between(before, after);
        var gone = differences.Where(line => !line.IsNew).Select(line => line.Line - 1).ToHashSet();
        var added = differences.Where(line => line.IsNew).Select(line => line.Line - 1).ToHashSet();
        var kept = new int[count];
        var now = 0;
        for (var line = 0; line < count; line++)
        {
            if (gone.Contains(line))
            {
                kept[line] = -1;
                continue;
            }

            while (added.Contains(now))
                now++;
            kept[line] = now++;
        }

        return kept;
    }
}
