using YamlDotNet.Core;

namespace Jexa.Core.Rewriting;

/// <summary>
/// A value of an app file and where it stands in the text: from <c>Start</c> to before <c>End</c>, in UTF-16 units.
/// </summary>
internal sealed class TextNode
{
    public required int Start { get; init; }

    /// <summary>For a block, the end of its last value, without the comment and the line break behind it.</summary>
    public required int End { get; init; }

    /// <summary>Whether a list or mapping has brackets.</summary>
    public bool IsFlow { get; init; }

    /// <summary>How a text is written.</summary>
    public ScalarStyle Style { get; init; }

    /// <summary>The text. Null for a list or mapping.</summary>
    public string? Text { get; init; }

    /// <summary>The items of a list. Null for anything else.</summary>
    public List<TextNode>? Items { get; init; }

    /// <summary>The entries of a mapping. Null for anything else.</summary>
    public List<(TextNode Key, TextNode Value)>? Entries { get; init; }

    public bool IsNothing => Text is "" && Style == ScalarStyle.Plain;

    /// <summary>Whether it is a list or mapping without brackets.</summary>
    public bool IsBlock => Text is null && !IsFlow;

    /// <summary>The index of the entry with this key; -1 if there is none.</summary>
    public int IndexOf(string key) => Entries?.FindIndex(entry => entry.Key.Text == key) ?? -1;

    /// <summary>The node at a place below this one. Null if there is none.</summary>
    public TextNode? At(IEnumerable<string> place)
    {
        var node = this;
        foreach (var step in place)
        {
            if (node.IndexOf(step) is >= 0 and var index)
                node = node.Entries![index].Value;
            else if (node.Items is { } items && int.TryParse(step, out var number) && number >= 0 && number < items.Count)
                node = items[number];
            else
                return null;
        }

        return node;
    }

    /// <summary>What the node means. Made once: large files are asked again and again.</summary>
    public FileValue Value =>
        field ??=
            Text is { } text ? new FileValue.Text(text, IsNothing)
            : Items is { } items ? new FileValue.List([.. items.Select(item => item.Value)])
            : new FileValue.Map([.. Entries!.Select(entry => KeyValuePair.Create(entry.Key.Text!, entry.Value.Value))]);
}
