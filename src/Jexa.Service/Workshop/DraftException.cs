namespace Jexa.Service.Workshop;

/// <summary>Why no app file can be drafted, as a sentence for whoever asked.</summary>
/// <param name="reason">Whose matter it is.</param>
public sealed class DraftException(DraftTrouble reason, string message, Exception? inner = null) : Exception(message, inner)
{
    /// <summary>Whose matter it is.</summary>
    public DraftTrouble Reason { get; } = reason;
}
