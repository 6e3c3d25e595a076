namespace Jexa.Core.Edits;

/// <summary>Why what was sent cannot be read.</summary>
public enum SentFault
{
    /// <summary>The form can be read.</summary>
    None,

    /// <summary>The body is not complete, or is neither a form nor JSON.</summary>
    Broken,

    /// <summary>It is not UTF-8, or contains NUL.</summary>
    NotText,

    /// <summary>The body is larger than the limit.</summary>
    TooLarge,

    /// <summary>It is neither a form nor JSON, and one of them is needed.</summary>
    OtherType,
}
