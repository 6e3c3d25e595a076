namespace Jexa.Core.Sites;

/// <summary>What Jexa keeps in a field by itself.</summary>
public enum KeptKind
{
    /// <summary>When the record was made.</summary>
    Created,

    /// <summary>When it was last changed.</summary>
    Changed,

    /// <summary>A number that grows with every change.</summary>
    Version,
}
