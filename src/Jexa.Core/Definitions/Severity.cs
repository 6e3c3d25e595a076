namespace Jexa.Core.Definitions;

/// <summary>How much a finding matters. Only errors keep the app from being served.</summary>
public enum Severity
{
    /// <summary>Nothing is wrong, but something may have been forgotten.</summary>
    Hint,

    /// <summary>The app is served, but visitors will get wrong answers.</summary>
    Warning,

    /// <summary>The app file cannot be served.</summary>
    Error,
}
