namespace Jexa.Core.Keys;

/// <summary>How well the key of a row matches the one in the address.</summary>
public enum KeyMatch
{
    /// <summary>Another value, or a match by rules looser than letter case.</summary>
    None,

    /// <summary>They differ in letter case only.</summary>
    CaseOnly,

    /// <summary>They are equal, code unit by code unit.</summary>
    Exact,
}
