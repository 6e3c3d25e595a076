namespace Jexa.Core.Keys;

/// <summary>How near a row's key is to the one asked for.</summary>
public enum KeyMatch
{
    /// <summary>Another value, or found only by rules looser than letter case.</summary>
    None,

    /// <summary>The same but for the case of its letters.</summary>
    CaseOnly,

    /// <summary>The same, code unit by code unit.</summary>
    Exact,
}
