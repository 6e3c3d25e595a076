namespace Jexa.Core.Sources;

/// <summary>A rule of the source forbids a change; nothing was changed.</summary>
/// <param name="columns">The columns it is about, as far as the source tells.</param>
/// <param name="words">What the developer's own rule says; empty for others.</param>
/// <param name="message">For the developer.</param>
public sealed class RefusedException(RefusalReason reason, IReadOnlyList<string> columns, string words, string message)
    : Exception(message)
{
    public RefusalReason Reason { get; } = reason;

    public IReadOnlyList<string> Columns { get; } = columns;

    public string Words { get; } = words;
}
