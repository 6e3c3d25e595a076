using Jexa.Core.Rewriting;

namespace Jexa.Service.Workshop;

/// <summary>How a step changes one file of the working copy, and back.</summary>
/// <param name="File">The name of a Markdown file; empty for the app file.</param>
/// <param name="Start">Where the changed part begins, in UTF-16 units.</param>
public sealed record TextSplice(string File, int Start, string Before, string After)
{
    /// <summary>The part in which two texts differ.</summary>
    public static TextSplice Between(string file, string before, string after)
    {
        var most = Math.Min(before.Length, after.Length);
        var start = 0;
        while (start < most && before[start] == after[start])
            start++;
        var end = 0;
        while (end < most - start && before[^(end + 1)] == after[^(end + 1)])
            end++;
        return new TextSplice(file, start, before[start..^end], after[start..^end]);
    }

    public string Do(string text) => Splice.Apply(text, [new Splice(Start, Before.Length, After)]);

    public string Undo(string text) => Splice.Apply(text, [new Splice(Start, After.Length, Before)]);
}
