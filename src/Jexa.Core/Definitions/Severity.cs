namespace Jexa.Core.Definitions;

public enum Severity
{
    /// <summary>Nothing is wrong; something may have been forgotten.</summary>
    Hint,

    /// <summary>The app serves all the same, but somebody will meet a wrong answer.</summary>
    Warning,

    /// <summary>The app file does not make a site.</summary>
    Error,
}
