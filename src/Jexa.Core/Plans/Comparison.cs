namespace Jexa.Core.Plans;

/// <summary>How one value compares with another.</summary>
public enum Comparison
{
    Less,
    AtMost,
    AtLeast,
    Greater,
}
