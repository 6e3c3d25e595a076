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
            ? [.. pointer[1..].Split('/').Select(step => step.Replace("~1", "/").Replace("~0", "~"))]
            : throw new RewriteException($"“{pointer}” is no place: write one such as /pages/bridge/title.");
}
