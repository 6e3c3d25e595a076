namespace Jexa.Core.Plans;

/// <summary>How one value compares with another.</summary>
public enum Comparison
{
    /// <summary>Less than.</summary>
    Less,

    /// <summary>Less than or equal.</summary>
    AtMost,

    /// <summary>Greater than or equal.</summary>
    AtLeast,

    /// <summary>Greater than.</summary>
    Greater,
}
