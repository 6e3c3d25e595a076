namespace Jexa.Core.Rewriting;

/// <summary>The lines and columns of a text that is rewritten. Offsets are in UTF-16 units, columns from 0.</summary>
/// <param name="newLine">The text's line break.</param>
internal readonly struct TextLines(string text, string newLine)
{
    /// <summary>Where the hyphen before an item of a list stands.</summary>
    public int DashOf(TextNode item) => text.LastIndexOf('-', item.Start - 1);

    public int StartOf(int at) => at == 0 ? 0 : text.LastIndexOf('\n', at - 1) + 1;

    /// <summary>The end of the line that a value ends on, before its line break.</summary>
    public int EndOf(int at)
    {
        var end = text.IndexOf('\n', at);
        return end < 0 ? text.Length
            : end > 0 && text[end - 1] == '\r' ? end - 1
            : end;
    }

    /// <summary>The beginning of the line behind the one that a value ends on; the end of the text if there is none.</summary>
    public int Behind(int at) => EndOf(at) is var end && end < text.Length ? text.IndexOf('\n', end) + 1 : end;

    public int Column(int at) => at - StartOf(at);

    public bool IsFirst(int at) => string.IsNullOrWhiteSpace(text[StartOf(at)..at]);

    /// <summary>Removes whole lines, with the comments right above them that stand in the same column.</summary>
    public Splice Without(int start, int end)
    {
        var (from, column) = (StartOf(start), Column(start));
        while (from > 0 && StartOf(from - 1) is var above && IsComment(above, column))
            from = above;
        var to = Behind(end);
        if (EndOf(end) == text.Length && from > 0)
            from -= newLine.Length;
        return new Splice(from, to - from, "");
    }

    private bool IsComment(int line, int column) =>
        line + column < text.Length
        && text[line + column] == '#'
        && string.IsNullOrWhiteSpace(text[line..(line + column)])
        && text.IndexOf('\n', line) is var end
        && (end < 0 || end > line + column);
}
