using System.Globalization;
using System.Text;

namespace Jexa.Core.Rewriting;

/// <summary>The difference of two texts in the unified format (POSIX <c>diff -u</c>), as <c>patch</c> reads it.</summary>
public static class UnifiedPatch
{
    private const int Context = 3;
    private const string NoLineEnd = "\\ No newline at end of file\n";

    /// <summary>The patch; empty if the texts are the same.</summary>
    /// <param name="name">The file's name in the patch.</param>
    public static string Of(string name, string before, string after)
    {
        var (old, now) = (Lines(before), Lines(after));
        var gone = new HashSet<int>();
        var added = new HashSet<int>();
        foreach (var line in LineDifference.Between(Marked(before), Marked(after)))
            (line.IsNew ? added : gone).Add(line.Line - 1);
        var rows = Rows(old, now, gone, added);
        if (rows.TrueForAll(row => row.Sign == ' '))
            return "";
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"--- a/{name}\n+++ b/{name}\n");
        var at = 0;
        while (Next(rows, at) is { } hunk)
        {
            Write(text, rows, hunk, (before, after), (old.Length, now.Length));
            at = hunk.End;
        }

        return text.ToString();
    }

    private sealed record Row(char Sign, string Text, int Old, int New);

    private sealed record Hunk(int Start, int End);

    private static List<Row> Rows(string[] old, string[] now, HashSet<int> gone, HashSet<int> added)
    {
        var rows = new List<Row>();
        var (o, n) = (0, 0);
        while (o < old.Length || n < now.Length)
        {
            if (o < old.Length && gone.Contains(o))
                rows.Add(new Row('-', old[o], o++, n));
            else if (n < now.Length && (added.Contains(n) || o >= old.Length))
                rows.Add(new Row('+', now[n], o, n++));
            else if (n >= now.Length)
                rows.Add(new Row('-', old[o], o++, n));
            else
                rows.Add(new Row(' ', old[o], o++, n++));
        }

        return rows;
    }

    /// <summary>The next run of changes, with the lines around it.</summary>
    private static Hunk? Next(List<Row> rows, int from)
    {
        var first = rows.FindIndex(from, row => row.Sign != ' ');
        if (first < 0)
            return null;
        var last = first;
        for (var i = first + 1; i < rows.Count && i <= last + (2 * Context); i++)
            if (rows[i].Sign != ' ')
                last = i;
        return new Hunk(Math.Max(from, first - Context), Math.Min(rows.Count, last + Context + 1));
    }

    private static void Write(
        StringBuilder text,
        List<Row> rows,
        Hunk hunk,
        (string Old, string New) whole,
        (int Old, int New) count
    )
    {
        var part = rows[hunk.Start..hunk.End];
        var (oldLines, newLines) = (part.Count(row => row.Sign != '+'), part.Count(row => row.Sign != '-'));
        var (oldStart, newStart) = (part[0].Old + (oldLines > 0 ? 1 : 0), part[0].New + (newLines > 0 ? 1 : 0));
        text.Append(CultureInfo.InvariantCulture, $"@@ -{oldStart},{oldLines} +{newStart},{newLines} @@\n");
        foreach (var row in part)
        {
            text.Append(row.Sign).Append(row.Text).Append('\n');
            var endsOld = row.Sign != '+' && row.Old == count.Old - 1 && !whole.Old.EndsWith('\n');
            var endsNew = row.Sign != '-' && row.New == count.New - 1 && !whole.New.EndsWith('\n');
            if (endsOld || endsNew)
                text.Append(NoLineEnd);
        }
    }

    /// <summary>A last line without a line end is another line than the same one with it.</summary>
    private static string Marked(string text) => text.EndsWith('\n') ? text : text + "\0";

    private static string[] Lines(string text) =>
        text.Length == 0 ? []
        : text.EndsWith('\n') ? text[..^1].Split('\n')
        : text.Split('\n');
}
