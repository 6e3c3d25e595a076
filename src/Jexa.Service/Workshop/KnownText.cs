using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Workshop;

/// <summary>
/// What is known of an app file while somebody types in it, and it cannot be read for a moment: the text without the word, or the
/// line, that is being typed, or the last text that could be read. For one caller at a time.
/// </summary>
/// <param name="compile">Compiles a text.</param>
public sealed class KnownText(Func<string, CancellationToken, Task<Compilation>> compile)
{
    /// <summary>A longer text takes too long to be compiled while somebody waits for words: what was known must do.</summary>
    private const int LongText = 100_000;

    private string? _text;
    private (FileMap Map, Compilation Compilation)? _last;

    /// <summary>Takes a text that was compiled.</summary>
    /// <param name="map">What stands where in it; null if it cannot be read.</param>
    public void Take(string text, FileMap? map, Compilation compilation)
    {
        if (map is not null)
            (_text, _last) = (text, (map, compilation));
    }

    /// <summary>What is known, for a text that is being typed.</summary>
    /// <param name="offset">Where it is being typed, in UTF-16 units.</param>
    /// <param name="now">The compilation of the latest text, for the time when nothing else is known.</param>
    public async Task<(FileMap? Map, Compilation Compilation)> ForAsync(
        string text,
        int offset,
        Compilation now,
        CancellationToken cancellation
    )
    {
        if (_last is null || text.Length < LongText)
            foreach (var rest in Rests(text, Math.Clamp(offset, 0, text.Length)))
                if (rest == _text)
                    break;
                else if (FileMap.Read(rest) is { } map)
                {
                    Take(rest, map, await compile(rest, cancellation));
                    break;
                }

        return _last is var (known, compilation) ? (known, compilation) : (null, now);
    }

    /// <summary>The text without the word that ends at an offset, its line's brackets closed; and with an empty line in the place
    /// of that line. All other lines keep their numbers.</summary>
    private static IEnumerable<string> Rests(string text, int offset)
    {
        var start = offset == 0 ? 0 : text.LastIndexOf('\n', offset - 1) + 1;
        var end = text.IndexOf('\n', offset) is >= 0 and var next ? next : text.Length;
        var word = offset;
        while (word > start && (char.IsLetterOrDigit(text[word - 1]) || text[word - 1] is '.' or '-' or '_' or '/'))
            word--;
        yield return text[..word] + Closing(text.AsSpan(start, word - start)) + text[end..];
        yield return text[..start] + text[end..];
    }

    /// <summary>The brackets that close those which a line leaves open.</summary>
    private static string Closing(ReadOnlySpan<char> line)
    {
        var open = new Stack<char>();
        var quote = '\0';
        foreach (var sign in line)
            if (quote != '\0')
                quote = sign == quote ? '\0' : quote;
            else if (sign is '"' or '\'')
                quote = sign;
            else if (sign is '[' or '{')
                open.Push(sign == '[' ? ']' : '}');
            else if (sign is ']' or '}')
                open.TryPop(out _);
        return string.Concat(open);
    }
}
