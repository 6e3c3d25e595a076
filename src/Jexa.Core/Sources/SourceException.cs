namespace Jexa.Core.Sources;

/// <summary>A source did not do what it was asked.</summary>
/// <param name="message">For the developer: said in findings, traces and logs, never to a visitor.</param>
public sealed class SourceException(SourceTrouble trouble, string message, Exception? inner = null) : Exception(message, inner)
{
    public SourceTrouble Trouble { get; } = trouble;

    /// <summary>
    /// Whether it is the app's or the source's own fault, to be mended by the developer rather than waited for.
    /// </summary>
    public bool IsFinding { get; init; }

    /// <summary>
    /// Whether trying again changes nothing until somebody mends it: a wrong password, a file that is not there.
    /// </summary>
    public bool IsSettled { get; init; }
}
