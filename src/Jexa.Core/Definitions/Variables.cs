using System.Text;

namespace Jexa.Core.Definitions;

/// <summary>Environment variables, written <c>${NAME}</c> in a text of the app file.</summary>
public static class Variables
{
    /// <summary>The text with its variables filled in; null if one is not set.</summary>
    /// <param name="quote">Quotes a value inside the text. A variable that is the whole text is not quoted.</param>
    /// <param name="missing">Called for each variable that is not set, with its place.</param>
    public static string? Fill(
        string text,
        Func<string, string?> environment,
        Func<string, string> quote,
        Action<string, int> missing
    )
    {
        var filled = new StringBuilder();
        var complete = true;
        for (var i = 0; i < text.Length; i++)
        {
            var close = text.AsSpan(i).StartsWith("${") ? text.IndexOf('}', i) : -1;
            if (close < 0)
            {
                filled.Append(text[i]);
                continue;
            }

            var name = text[(i + 2)..close];
            if (environment(name) is { } value)
            {
                filled.Append(i == 0 && close == text.Length - 1 ? value : quote(value));
            }
            else
            {
                complete = false;
                missing(name, i);
            }

            i = close;
        }

        return complete ? filled.ToString() : null;
    }
}
