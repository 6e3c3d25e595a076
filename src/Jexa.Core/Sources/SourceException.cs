namespace Jexa.Core.Sources;

/// <summary>A source did not do what it was asked to do.</summary>
/// <param name="message">For the developer. It appears in findings, traces and logs, never in an answer to a visitor.</param>
public sealed class SourceException(SourceTrouble trouble, string message, Exception? inner = null) : Exception(message, inner)
{
    /// <summary>What kind of trouble it is.</summary>
    public SourceTrouble Trouble { get; } = trouble;

    /// <summary>Whether the developer must correct something in the app or the source. Waiting does not help.</summary>
    public bool IsFinding { get; init; }

    /// <summary>
    /// Whether trying again is useless until somebody corrects the cause, such as a wrong password or a missing file.
    /// </summary>
    public bool IsSettled { get; init; }
}
