namespace Jexa.Core.Sources;

/// <summary>The kind of rule that forbids a change.</summary>
public enum RefusalReason
{
    /// <summary>Another row has these values.</summary>
    Unique,

    /// <summary>A required value is missing.</summary>
    Empty,

    /// <summary>A check constraint.</summary>
    Check,

    /// <summary>A referenced row does not exist, or other rows refer to this one.</summary>
    Reference,

    /// <summary>The developer's own rule, in the developer's own words.</summary>
    Own,

    /// <summary>A value that the column cannot store.</summary>
    Type,

    /// <summary>Another reason.</summary>
    Other,
}
