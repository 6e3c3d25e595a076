namespace Jexa.Core.Sources;

/// <summary>Why a source did not answer.</summary>
public enum SourceTrouble
{
    /// <summary>It cannot be reached: it does not exist, is locked, or has no free connection.</summary>
    Away,

    /// <summary>It did not answer within its time limit.</summary>
    TooSlow,

    /// <summary>It answered with an error.</summary>
    Failed,
}
