namespace Jexa.Core.Sources;

public enum SourceTrouble
{
    /// <summary>It cannot be reached: not there, locked, no connection to be had.</summary>
    Away,

    /// <summary>It did not answer within its time limit.</summary>
    TooSlow,

    /// <summary>It answered with an error.</summary>
    Failed,
}
