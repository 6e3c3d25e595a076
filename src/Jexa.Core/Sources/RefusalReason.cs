namespace Jexa.Core.Sources;

/// <summary>Which kind of rule of the source forbids a change.</summary>
public enum RefusalReason
{
    /// <summary>Another row has these values.</summary>
    Unique,

    /// <summary>A value is lacking.</summary>
    Empty,

    /// <summary>A check on the row's values.</summary>
    Check,

    /// <summary>A row that is referred to is not there, or rows refer to this one.</summary>
    Reference,

    /// <summary>The developer's own rule, in the developer's own words.</summary>
    Own,

    /// <summary>A value that the column cannot hold.</summary>
    Type,
    Other,
}
