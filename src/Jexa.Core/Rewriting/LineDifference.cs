namespace Jexa.Core.Rewriting;

/// <summary>A line that a change of a text takes away or adds.</summary>
/// <param name="IsNew">Whether it is added.</param>
/// <param name="Line">Its number, from 1: in the new text if it is added, else in the old one.</param>
public sealed record LineDifference(bool IsNew, int Line, string Text)
{
    /// <summary>
    /// The lines in which two texts differ, in order, by a shortest edit script (E. W. Myers, 1986). Texts that differ in more
    /// than 2,000 lines are compared from both ends only.
    /// </summary>
    public static IReadOnlyList<LineDifference> Between(string before, string after)
    {
        var (old, now) = (before.ReplaceLineEndings("\n").Split('\n'), after.ReplaceLineEndings("\n").Split('\n'));
        var start = 0;
        while (start < old.Length && start < now.Length && old[start] == now[start])
            start++;
        var end = 0;
        while (end < old.Length - start && end < now.Length - start && old[^(end + 1)] == now[^(end + 1)])
            end++;
        var (a, b) = (old[start..^end], now[start..^end]);
        var kept = Kept(a, b);
        var lines = new List<LineDifference>();
        var (i, j) = (0, 0);
        foreach (var (x, y) in kept.Append((a.Length, b.Length)))
        {
            for (; i < x; i++)
                lines.Add(new LineDifference(false, start + i + 1, a[i]));
            for (; j < y; j++)
                lines.Add(new LineDifference(true, start + j + 1, b[j]));
            (i, j) = (x + 1, y + 1);
        }

        return lines;
    }

    private const int Most = 2000;

    /// <summary>The pairs of lines that both texts have, in order.</summary>
    private static List<(int Old, int New)> Kept(string[] a, string[] b)
    {
        var steps = new List<Dictionary<int, int>>();
        var reach = new Dictionary<int, int> { [1] = 0 };
        for (var d = 0; d <= Math.Min(a.Length + b.Length, Most); d++)
        {
            steps.Add(new Dictionary<int, int>(reach));
            for (var k = -d; k <= d; k += 2)
            {
                var x = k == -d || (k != d && At(reach, k - 1) < At(reach, k + 1)) ? At(reach, k + 1) : At(reach, k - 1) + 1;
                while (x < a.Length && x - k < b.Length && a[x] == b[x - k])
                    x++;
                reach[k] = x;
                if (x >= a.Length && x - k >= b.Length)
                    return Back(steps, d, a.Length, b.Length);
            }
        }

        return [];
    }

    private static List<(int Old, int New)> Back(List<Dictionary<int, int>> steps, int d, int x, int y)
    {
        var pairs = new List<(int, int)>();
        for (; d >= 0; d--)
        {
            var (reach, k) = (steps[d], x - y);
            var from = k == -d || (k != d && At(reach, k - 1) < At(reach, k + 1)) ? k + 1 : k - 1;
            var (px, py) = (At(reach, from), At(reach, from) - from);
            for (; x > px && y > py; x--, y--)
                pairs.Add((x - 1, y - 1));
            (x, y) = (px, py);
        }

        pairs.Reverse();
        return pairs;
    }

    private static int At(Dictionary<int, int> reach, int k) => reach.GetValueOrDefault(k, -1);
}
