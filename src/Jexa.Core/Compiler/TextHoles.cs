using System.Text;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Reads texts such as <c>{code} {name}</c>. A doubled brace stands for one brace.</summary>
internal static class TextHoles
{
    /// <summary>The pieces; null, and reported, if braces do not match.</summary>
    public static IReadOnlyList<TextHole>? Read(Written text, FindingList findings)
    {
        var holes = new List<TextHole>();
        var literal = new StringBuilder();
        for (var i = 0; i < text.Value.Length; i++)
        {
            var c = text.Value[i];
            if (c is not ('{' or '}'))
            {
                literal.Append(c);
                continue;
            }

            if (i + 1 < text.Value.Length && text.Value[i + 1] == c)
            {
                literal.Append(c);
                i++;
                continue;
            }

            var close = c == '{' ? text.Value.IndexOf('}', i) : -1;
            if (close < 0)
            {
                findings.Add(
                    FindingCodes.BadText,
                    text.Of(i),
                    "A brace is not paired.",
                    "Write a hole as {field}, and a brace itself twice.",
                    found: text.Value,
                    expected: "{field}"
                );
                return null;
            }

            if (literal.Length > 0)
                holes.Add(new TextHole(literal.ToString(), null));
            literal.Clear();
            holes.Add(
                new TextHole(null, new Written(text.Value[(i + 1)..close].Trim(), text.Of(i + 1)) { IsOneRun = text.IsOneRun })
            );
            i = close;
        }

        if (literal.Length > 0)
            holes.Add(new TextHole(literal.ToString(), null));
        return holes;
    }
}
