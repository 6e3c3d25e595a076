namespace Jexa.Core.Edits;

/// <summary>Why what was sent cannot be read.</summary>
public enum SentFault
{
    None,

    /// <summary>The body does not arrive whole, or is no form or JSON.</summary>
    Broken,

    /// <summary>It is not UTF-8, or holds NUL.</summary>
    NotText,
    TooLarge,

    /// <summary>Neither a form nor JSON where one of them is wanted.</summary>
    OtherType,
}
