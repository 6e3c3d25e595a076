namespace Jexa.Core.Sites;

/// <summary>The kinds of field that Jexa fills by itself.</summary>
public enum KeptKind
{
    /// <summary>When the record was made.</summary>
    Created,

    /// <summary>When it was last changed.</summary>
    Changed,

    /// <summary>A number that increases with every change.</summary>
    Version,
}
