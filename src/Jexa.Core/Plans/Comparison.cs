namespace Jexa.Core.Plans;

/// <summary>Where one value stands to another.</summary>
public enum Comparison
{
    Less,
    AtMost,
    AtLeast,
    Greater,
}
