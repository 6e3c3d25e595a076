using System.Text;

namespace Jexa.Core.Definitions;

/// <summary>Variables of the environment, written <c>${NAME}</c> in a text of the app file.</summary>
public static class Variables
{
    /// <summary>The text with its variables filled in; null if one is not set.</summary>
    /// <param name="quote">A value as it stands within the text; a variable that is the whole text says all of it, and stands as
    /// it is.</param>
    /// <param name="missing">Told of each variable that is not set, and where it stands.</param>
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
