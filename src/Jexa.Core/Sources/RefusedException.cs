namespace Jexa.Core.Sources;

/// <summary>A rule of the source forbids a change. Nothing was changed.</summary>
/// <param name="columns">The columns that the rule is about, if the source tells them.</param>
/// <param name="words">The text of the developer's own rule; empty for other rules.</param>
/// <param name="message">For the developer.</param>
public sealed class RefusedException(RefusalReason reason, IReadOnlyList<string> columns, string words, string message)
    : Exception(message)
{
    /// <summary>Why the source refused the change.</summary>
    public RefusalReason Reason { get; } = reason;

    /// <summary>The columns that the refusal names. Empty if it names none.</summary>
    public IReadOnlyList<string> Columns { get; } = columns;

    /// <summary>The source's own words. For the log, never for a visitor.</summary>
    public string Words { get; } = words;
}
