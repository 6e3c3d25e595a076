namespace Jexa.Core.Rewriting;

/// <summary>Replaces a part of a text.</summary>
/// <param name="Start">Where the part begins, in UTF-16 units.</param>
/// <param name="Length">How long it is; 0 to insert.</param>
/// <param name="Text">What stands there instead.</param>
public readonly record struct Splice(int Start, int Length, string Text)
{
    /// <summary>The text with the splices made. They must not overlap; their places are those of the given text.</summary>
    public static string Apply(string text, IEnumerable<Splice> splices)
    {
        var made = new System.Text.StringBuilder();
        var at = 0;
        foreach (var splice in splices.OrderBy(splice => splice.Start).ThenBy(splice => splice.Length))
        {
            if (splice.Start < at)
                throw new ArgumentException("The splices overlap.", nameof(splices));
            made.Append(text, at, splice.Start - at).Append(splice.Text);
            at = splice.Start + splice.Length;
        }

        return made.Append(text, at, text.Length - at).ToString();
    }

    /// <summary>The splices that undo these, in the changed text.</summary>
    public static IReadOnlyList<Splice> Inverse(string text, IEnumerable<Splice> splices)
    {
        var shift = 0;
        var inverse = new List<Splice>();
        foreach (var splice in splices.OrderBy(splice => splice.Start).ThenBy(splice => splice.Length))
        {
            inverse.Add(new Splice(splice.Start + shift, splice.Text.Length, text.Substring(splice.Start, splice.Length)));
            shift += splice.Text.Length - splice.Length;
        }

        return inverse;
    }
}
