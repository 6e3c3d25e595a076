using System.Collections.Frozen;
using AngleSharp.Dom;

namespace Jexa.Core.Audit;

/// <summary>What a page says, ready to be asked for facts.</summary>
public sealed class PageText
{
    private readonly string _words;
    private readonly FrozenSet<string> _numbers;
    private readonly FrozenSet<string> _dates;

    /// <param name="without">A text that is cut out first: an ID that was asked for, and that the page may only repeat.</param>
    public PageText(string text, string? without = null)
    {
        var plain = FactReading.Plain(text);
        if (without is { Length: > 0 } echo)
            plain = plain.Replace(FactReading.Plain(echo), " ", StringComparison.Ordinal);
        _words = $" {plain} ";
        _numbers = FactReading.Numbers(plain).ToFrozenSet();
        _dates = FactReading.Dates(plain).ToFrozenSet();
    }

    /// <summary>The words, in lower case.</summary>
    public string Words => _words;

    /// <summary>The letters of the text.</summary>
    public int Length => _words.Length - 2;

    /// <summary>Whether the page says it.</summary>
    public bool Says(Fact fact) =>
        fact.Kind switch
        {
            FactKind.Date => _dates.Contains(fact.Text),
            FactKind.Number => _numbers.Contains(fact.Text),
            _ => HasWords(fact.Text),
        };

    /// <summary>The words of an element, with a blank between those of its leaves; not of scripts, styles and choices.</summary>
    public static string Of(INode node)
    {
        var text = new System.Text.StringBuilder();
        Add(node, text);
        return text.ToString();
    }

    private static void Add(INode node, System.Text.StringBuilder text)
    {
        switch (node)
        {
            case IText words:
                text.Append(words.Data);
                break;
            case IElement { LocalName: "script" or "style" or "template" or "noscript" or "option" }:
                break;
            case IElement { LocalName: "input" } input when input.GetAttribute("type") is not ("hidden" or "password"):
                text.Append(' ').Append(input.GetAttribute("value")).Append(' ');
                break;
            default:
                if (node is IElement)
                    text.Append(' ');
                foreach (var child in node.ChildNodes)
                    Add(child, text);
                if (node is IElement)
                    text.Append(' ');
                break;
        }
    }

    private bool HasWords(string words)
    {
        for (
            var at = _words.IndexOf(words, StringComparison.Ordinal);
            at >= 0;
            at = _words.IndexOf(words, at + 1, StringComparison.Ordinal)
        )
            if (!char.IsLetterOrDigit(_words[at - 1]) && !char.IsLetterOrDigit(_words[at + words.Length]))
                return true;
        return false;
    }
}
