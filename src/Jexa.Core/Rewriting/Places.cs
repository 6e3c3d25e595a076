using Jexa.Core.Values;

namespace Jexa.Core.Rewriting;

/// <summary>
/// Places in an app file as programs and people write them: JSON Pointers (RFC 6901), such as <c>/pages/bridge/title</c>.
/// </summary>
public static class Places
{
    /// <summary>The keys of a pointer.</summary>
    /// <exception cref="RewriteException">The text is no pointer to a value.</exception>
    public static IReadOnlyList<string> Read(string pointer) =>
        pointer.Length > 1 && pointer[0] == '/'
            ? [.. JsonPointer.Keys(pointer)]
            : throw new RewriteException($"“{pointer}” is no place: write one such as /pages/bridge/title.");

    /// <summary>The pointer of these keys.</summary>
    public static string Write(IEnumerable<string> place) => JsonPointer.Of(place);
}
