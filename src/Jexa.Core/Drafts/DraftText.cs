using System.Text;

namespace Jexa.Core.Drafts;

/// <summary>The text of a draft while it is written, and its doubts.</summary>
internal sealed class DraftText
{
    private readonly StringBuilder _text = new();
    private readonly List<string> _doubts = [];

    public IReadOnlyList<string> Doubts => _doubts;

    /// <summary>How many pages it has.</summary>
    public int Pages { get; set; }

    /// <param name="depth">Levels of indentation.</param>
    public void Line(int depth, string text) => _text.Append(' ', text.Length == 0 ? 0 : depth * 2).Append(text).Append('\n');

    public void Doubt(string sentence) => _doubts.Add(sentence);

    /// <summary>The whole text, with its doubts as comments below the first line.</summary>
    public override string ToString()
    {
        var text = _text.ToString();
        var first = text.IndexOf('\n') + 1;
        return text[..first] + string.Concat(_doubts.Select(doubt => $"# Unsure: {doubt}\n")) + text[first..];
    }
}
